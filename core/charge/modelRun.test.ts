import { expect } from 'chai';
import { SOUND } from '../model/battery.ts';
import { makeBattery } from '../model/faults.ts';
import { soundBattery } from '../model/parameters.ts';
import { AGM_80, chargeOn, FLOODED_70, partCharged, steadyCharge, subjectOf } from '../test/modelBench.ts';
import { planFor } from './library.ts';
import type { ModelRun } from './modelRun.ts';
import { Trace } from './trace.ts';

const HOUR = 3600;

function most(run: ModelRun, column: 'volts' | 'amps'): number {
  let highest = -1e9;
  for (let row = 0; row < run.trace.length; row++) highest = Math.max(highest, run.trace.value(row, column));
  return highest;
}

describe('a plan run on the model', () => {
  it('goes through its stages in order, each placed where its exit was met', () => {
    const run = chargeOn(
      FLOODED_70,
      partCharged(soundBattery(FLOODED_70), []),
      planFor('tenth-timed', subjectOf(FLOODED_70)),
    );
    run.runUntil(30 * HOUR);
    expect(run.stages.map(({ name }) => name)).to.deep.equal(['Bulk and taper', 'Until proven full']);
    const proofAt = run.stages[1]?.atS ?? 0;
    expect(run.trace.at(proofAt, 'amps')).to.be.closeTo(70 / 50, 0.01);
    expect(run.atS - proofAt).to.be.within(2 * HOUR, 8 * HOUR);
    expect(run.engineState).to.include({ ended: 'full' });
  });

  it('never exceeds what the charger can give', () => {
    const run = chargeOn(FLOODED_70, partCharged(soundBattery(FLOODED_70), []), steadyCharge(FLOODED_70), {
      supply: { mostA: 3, mostV: 14.1 },
    });
    run.runUntil(40 * HOUR);
    expect(most(run, 'amps')).to.be.closeTo(3, 0.01);
    expect(most(run, 'volts')).to.be.below(14.101);
  });

  it('gives nothing while the battery stands above the voltage asked for, then holds it', () => {
    const run = chargeOn(
      AGM_80,
      partCharged(soundBattery(AGM_80), [], 0.8),
      planFor('constant-voltage', subjectOf(AGM_80)),
    );
    run.runUntil(30 * HOUR);
    const floatAt = run.stages.find(({ name }) => name === 'Float')?.atS ?? 0;
    const amps: number[] = [];
    for (let row = 0; row < run.trace.length; row++)
      if (Math.abs(run.trace.seconds(row) - floatAt) < 60) amps.push(run.trace.value(row, 'amps'));
    expect(Math.min(...amps)).to.be.closeTo(0, 1e-3);
    expect(run.trace.at(floatAt + 3 * HOUR, 'volts')).to.be.closeTo(13.6, 0.15);
    expect(run.trace.at(floatAt + 3 * HOUR, 'amps')).to.be.above(0.01);
  });

  it('is switched off when hot, cools, goes on, and ends when it is hot again and again', () => {
    const cells = partCharged(soundBattery(AGM_80), [{ kind: 'short', cell: 3, ohms: 0.02 }], 0.7, 30);
    const run = chargeOn(AGM_80, cells, steadyCharge(AGM_80, 12));
    run.runUntil(48 * HOUR);
    expect(run.engineState).to.include({ ended: 'stop', hotPauses: 3 });
    expect(run.engineState.because).to.include('suspect a shorted cell');
    let pauses = 0;
    for (let row = 1; row < run.trace.length; row++) {
      const [before, now] = [run.trace.value(row - 1, 'amps'), run.trace.value(row, 'amps')];
      if (before > 1 && now < 0.01) {
        pauses += 1;
        expect(run.trace.value(row, 'tempC')).to.be.within(44, 46);
      }
    }
    expect(pauses).to.equal(2);
  });

  it('can be run in slices with the same result', () => {
    const end = (sliceH: number): ModelRun => {
      const run = chargeOn(AGM_80, partCharged(soundBattery(AGM_80), []), steadyCharge(AGM_80, 8, 24));
      for (let hour = sliceH; hour <= 24; hour += sliceH) run.runUntil(hour * HOUR);
      return run;
    };
    expect(end(24).volts()).to.be.closeTo(end(1).volts(), 1e-3);
    expect(end(24).cells.state.shared[1] ?? 0).to.be.closeTo(end(1).cells.state.shared[1] ?? 0, 0.02);
  });

  it('follows pulses one by one where it is asked to', () => {
    const cells = makeBattery({ parameters: soundBattery(AGM_80), condition: { ...SOUND, charge: 0.5 } });
    const run = chargeOn(AGM_80, cells, planFor('pulse', subjectOf(AGM_80)), { resolvesPulses: true });
    run.runUntil(40);
    const seen = new Set<string>();
    for (let row = 1; row < run.trace.length; row++) seen.add(run.trace.value(row, 'amps').toFixed(1));
    expect([...seen]).to.include.members(['9.6', '3.2', '0.0']);
  });
});

describe('a trace', () => {
  it('grows, and reads straight between its rows', () => {
    const trace = new Trace();
    for (let row = 0; row < 3000; row++) {
      trace.open(row * 2);
      trace.set(0, row);
    }
    expect(trace.length).to.equal(3000);
    expect(trace.at(2001, 'volts')).to.be.closeTo(1000.5, 1e-3);
    expect(trace.at(-5, 'volts')).to.equal(0);
    expect(trace.at(1e9, 'volts')).to.equal(2999);
    expect(new Trace().at(10, 'volts')).to.satisfy(Number.isNaN);
  });
});
