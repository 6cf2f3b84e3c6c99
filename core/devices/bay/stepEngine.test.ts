import { expect } from 'chai';
import { postsOhm } from '../../charge/donor.ts';
import { SOUND } from '../../model/battery.ts';
import { makeBattery } from '../../model/faults.ts';
import { soundBattery } from '../../model/parameters.ts';
import { AGM_80 } from '../../test/modelBench.ts';
import { rest } from '../../model/discharge.ts';
import { VirtualBench } from '../../test/virtualBench.ts';
import { StepEngine, type StepPlan, type StepState } from './stepEngine.ts';

const PLAN: StepPlan = { firstA: 5, secondA: 25, cells: 6 };

describe('a step of current', () => {
  const engine = new StepEngine(PLAN);
  const after = (...seen: readonly (readonly [atS: number, volts: number, amps: number])[]): StepState =>
    seen.reduce(
      (state, [atS, volts, amps]) => engine.next(state, { atS, volts, amps, tempC: 25 }),
      engine.begin(0),
    );

  it('is a small current for ten seconds, and a large one for a second', () => {
    const small = after([1, 12.6, 5], [5, 12.58, 5]);
    expect(engine.command(small)).to.include({ isOn: true, amps: 5 });
    const large = after([1, 12.6, 5], [10, 12.55, 5]);
    expect(engine.command(large)).to.include({ isOn: true, amps: 25 });
    expect(large.ended).to.equal(undefined);
  });

  it('gives the fall of the volts by the rise of the current', () => {
    const state = after([1, 12.6, 5], [10, 12.55, 5], [11, 12.35, 25]);
    expect(state.ohms).to.be.closeTo(0.2 / 20, 1e-9);
    expect(state).to.include({ ended: 'measured', because: '10.0 mΩ between its posts.' });
    expect(engine.command(state).isOn).to.equal(false);
    expect(engine.next(state, { atS: 12, volts: 12, amps: 25, tempC: 25 })).to.equal(state);
  });

  it('waits for a load that is slow, and makes nothing up where it never comes', () => {
    const waits = after([10, 12.55, 5], [11, 12.5, 12]);
    expect(waits.ended).to.equal(undefined);
    const never = after([10, 12.55, 5], [11, 12.5, 12], [14, 12.5, 12]);
    expect(never).to.include({
      ended: 'unsteady',
      because: 'The load drew 12.00 of 25.00 A: no step came of it.',
    });
    expect(never.ohms).to.equal(undefined);
  });

  it('is let go where the battery falls too far', () => {
    expect(after([1, 9.5, 5]).ended).to.equal('low');
  });
});

describe('a bay with a load at a battery that has no cranking rating', () => {
  it('finds the resistance the battery has between its posts', async () => {
    const cells = makeBattery({
      parameters: soundBattery(AGM_80),
      condition: { ...SOUND, charge: 1 },
      faults: [],
      tempC: 25,
    });
    rest(cells, 60);
    const truth = postsOhm(cells);
    const bench = new VirtualBench<StepState>({ cells, engine: new StepEngine(PLAN), leastV: 9 });
    await bench.begin();
    await bench.runFor(20);
    const { phase } = bench.supervisor;
    const ohms = phase.kind === 'ended' ? phase.state.ohms : undefined;
    // A second's step sees some of what the plates take to follow, beside what is ohmic.
    expect((ohms ?? 0) / truth, `${ohms} of ${truth}`).to.be.within(0.95, 1.6);
    expect(bench.circuit.batteryA).to.be.closeTo(0, 1e-6);
    expect(bench.alarms).to.have.length(0);
  });
});
