import { expect } from 'chai';
import { SOUND } from '../../model/battery.ts';
import type { CellString } from '../../model/cellString.ts';
import { draw } from '../../model/discharge.ts';
import { makeBattery } from '../../model/faults.ts';
import { soundBattery } from '../../model/parameters.ts';
import { AGM_80 } from '../../test/modelBench.ts';
import { VirtualBench } from '../../test/virtualBench.ts';
import type { Clips } from '../simulated/failings.ts';
import { DrainEngine, type DrainPlan, type DrainState } from './drainEngine.ts';

const PLAN: DrainPlan = { amps: 25, endV: 10.5, mostS: 6 * 3600, cells: 6 };
const LEAST_V = 10.2;

describe('a discharge to its end', () => {
  const engine = new DrainEngine(PLAN);
  const after = (...volts: readonly number[]): DrainState =>
    volts.reduce(
      (state, one, index) => engine.next(state, { atS: 60 * index, volts: one, amps: 25, tempC: 25 }),
      engine.begin(0),
    );

  it('counts what the load shows, and ends at its voltage', () => {
    const state = after(12.4, 12.2, 12.0, 10.5);
    expect(state.totalAh).to.be.closeTo((25 * 180) / 3600, 1e-9);
    expect(state).to.include({ ended: 'low', because: '10.50 V after 3 min: it gave 1.25 Ah.' });
    expect(engine.command(state).isOn).to.equal(false);
    expect(engine.next(state, { atS: 999, volts: 12, amps: 25, tempC: 25 })).to.equal(state);
  });

  it('does not take clips that fell off for a battery that is empty', () => {
    expect(after(12.4, 0).ended).to.equal(undefined);
  });

  it('is over in the end, whatever the voltage', () => {
    const long = Array.from({ length: 362 }, () => 12.3);
    expect(after(...long)).to.include({ ended: 'time', because: 'Still 12.30 V after 360 min.' });
  });
});

describe('a bay with a load', () => {
  const battery = (charge = 1): CellString =>
    makeBattery({
      parameters: soundBattery(AGM_80),
      condition: { ...SOUND, charge },
      faults: [],
      tempC: 25,
    });
  const bench = (charge = 1): VirtualBench<DrainState> =>
    new VirtualBench<DrainState>({
      cells: battery(charge),
      engine: new DrainEngine(PLAN),
      leastV: LEAST_V,
    });
  const sayingOf = async (work: Promise<unknown>): Promise<string> =>
    work.then(
      () => 'nothing',
      (error: unknown) => (error instanceof Error ? error.message : String(error)),
    );

  it('draws a battery down to its end, as long as the model says, and lets go', async () => {
    const direct = draw(battery(), PLAN.amps, PLAN.endV, PLAN.mostS);
    const one = bench();
    await one.begin();
    expect(one.circuit.batteryA).to.be.closeTo(-25, 0.1);
    for (let minute = 0; minute < 360 && one.supervisor.phase.kind === 'running'; minute++)
      await one.runFor(60);
    const { phase } = one.supervisor;
    if (phase.kind !== 'ended') throw new Error(JSON.stringify(phase));
    expect(phase.state.ended).to.equal('low');
    // A look a second, and the small step before it.
    expect(phase.state.totalAh).to.be.closeTo(direct.ah, 0.005 * direct.ah);
    expect(one.circuit.batteryA).to.be.closeTo(0, 1e-6);
    expect(one.supervisor.stage).to.equal('25.00 A down to 10.50 V');
  });

  for (const [clips, words] of [
    ['reversed', 'wrong way round'],
    ['off', 'draws 0.00 A'],
    ['touching', 'draws 0.00 A'],
  ] as const satisfies readonly (readonly [Clips, string])[])
    it(`draws nothing where clips are ${clips}, and says what it saw`, async () => {
      const one = bench();
      one.circuit.clip(clips);
      expect(await sayingOf(one.time.until(one.supervisor.check()))).to.include(words);
      expect(one.circuit.batteryA).to.be.closeTo(0, 1e-6);
    });

  it('nor from one that is empty, or stood elsewhere', async () => {
    const empty = bench(0.03);
    expect(await sayingOf(empty.time.until(empty.supervisor.check()))).to.include('nothing is drawn from');
    const other = bench();
    expect(await sayingOf(other.time.until(other.supervisor.check(11.6)))).to.include(
      'another battery is clipped',
    );
  });

  it('is off within two seconds where its load is silent, by its own watchdog, and calls', async () => {
    const one = bench();
    await one.begin();
    await one.runFor(60);
    one.load.fail('silent');
    expect(await one.secondsUntilOff(10)).to.be.below(4);
    expect(one.supervisor.phase).to.have.property('kind', 'off');
    expect(one.alarms.at(-1)?.says).to.include('The load: it does not answer');
  });

  it('lets go by itself at its own limit where nobody looks any more', async () => {
    const one = bench(0.35);
    await one.begin();
    await one.runFor(5);
    one.load.fail(undefined);
    one.die();
    expect(await one.secondsUntilOff(5), 'its watchdog').to.be.below(3);
  });
});
