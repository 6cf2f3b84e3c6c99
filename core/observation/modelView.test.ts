import { expect } from 'chai';
import { hydrometerTo25, massFractionAt } from '../electrolyte/density.ts';
import { cellEmf, molality } from '../electrolyte/emf.ts';
import { SOUND } from '../model/battery.ts';
import type { CellString } from '../model/cellString.ts';
import { rest } from '../model/discharge.ts';
import { makeBattery, type Fault } from '../model/faults.ts';
import { soundBattery, type Rating } from '../model/parameters.ts';
import { AGM_80, chargeOn, FLOODED_70, steadyCharge } from '../test/modelBench.ts';
import {
  analyse,
  bubblesOf,
  cellVolts,
  conductanceA,
  dipProbes,
  ERRORS,
  hydrometerAt,
  levelOf,
  loadV,
  meterV,
  probeC,
  read,
  scaleG,
} from './modelView.ts';

const HOUR = 3600;

function standing(
  charge = 1,
  faults: readonly Fault[] = [],
  rating: Rating = FLOODED_70,
  tempC = 25,
): CellString {
  const cells = makeBattery({
    parameters: soundBattery(rating),
    condition: { ...SOUND, charge },
    faults,
    tempC,
  });
  rest(cells, 4 * HOUR);
  return cells;
}

describe('instruments on a battery of the model', () => {
  it('dip probes: one reading more than cells, summing to the battery', () => {
    for (const faults of [[], [{ kind: 'weak', cell: 2, share: 0.3 }]] as Fault[][]) {
      const cells = standing(0.4, faults);
      const readings = dipProbes(cells);
      expect(readings).to.have.length(7);
      expect(readings.reduce((sum, volts) => sum + volts, 0)).to.be.closeTo(meterV(cells), 1e-9);
    }
    for (const step of dipProbes(standing()).slice(1, -1)) expect(step).to.be.within(2.0, 2.15);
  });

  it('dip probes: a dead cell shows before it, after it, or in both, never as its own number', () => {
    const cells = standing(0.9, [{ kind: 'short', cell: 3, ohms: 0.02 }]);
    expect(cellVolts(cells)[2]).to.be.below(0.1);
    const shared = dipProbes(cells, 0.5);
    // Reading 3 pairs cells 2 and 3, reading 4 pairs cells 3 and 4.
    expect(shared[2]).to.be.closeTo(shared[3] ?? 0, 0.35);
    expect(shared[2]).to.be.below(1.3);
    expect(dipProbes(cells, 1)[2]).to.be.below(0.3);
    expect(dipProbes(cells, 1)[3]).to.be.above(1.9);
    expect(dipProbes(cells, 0)[2]).to.be.above(1.9);
    expect(dipProbes(cells, 0)[3]).to.be.below(0.3);
  });

  it('the hydrometer, corrected, gives the acid the cell rests in', () => {
    for (const charge of [1, 0.6, 0.3]) {
      const cells = standing(charge);
      const density = hydrometerTo25(hydrometerAt(cells, 1), probeC(cells, 1));
      const emf = cellEmf(molality(massFractionAt(density, 25)));
      expect(6 * emf).to.be.closeTo(meterV(cells), 0.03);
    }
    const warm = standing(1, [], FLOODED_70, 40);
    expect(hydrometerAt(warm, 1)).to.be.below(hydrometerAt(standing(), 1) - 0.007);
  });

  it('the hydrometer reads low in layered acid, and says so of one weak cell only', () => {
    expect(hydrometerAt(standing(0.9, [{ kind: 'layered', share: 0.2 }]), 1)).to.be.below(
      hydrometerAt(standing(0.9), 1) - 0.03,
    );
    const one = standing(0.9, [{ kind: 'short', cell: 5, ohms: 0.05 }]);
    expect(hydrometerAt(one, 4) - hydrometerAt(one, 5)).to.be.above(0.05);
    expect(hydrometerAt(one, 4)).to.be.closeTo(hydrometerAt(one, 1), 1e-9);
  });

  it('the eye: level, and bubbles in all cells but the shorted one', () => {
    expect(levelOf(standing(), 1)).to.equal('at-line');
    expect(levelOf(standing(1, [{ kind: 'dry', share: 0.1 }]), 6)).to.equal('low');
    const one = standing(1, [{ kind: 'dry', share: 0.2, cell: 2 }]);
    expect([1, 2, 3].map((cell) => levelOf(one, cell))).to.deep.equal(['at-line', 'plates-bare', 'at-line']);
    const shorted = standing(0.9, [{ kind: 'short', cell: 3, ohms: 0.02 }]);
    expect(bubblesOf(shorted, 1)).to.equal('none');
    chargeOn(FLOODED_70, shorted, steadyCharge(FLOODED_70, 7, 6)).runUntil(6 * HOUR);
    expect([1, 2, 3, 4, 5, 6].map((cell) => bubblesOf(shorted, cell))).to.deep.equal([
      'lively',
      'lively',
      'none',
      'lively',
      'lively',
      'lively',
    ]);
  });

  it('the scale loses what gassing took, and nothing else', () => {
    const cells = standing(0.5);
    const before = scaleG(cells, 15_000);
    const run = chargeOn(FLOODED_70, cells, steadyCharge(FLOODED_70, 7, 40));
    run.runUntil(40 * HOUR);
    expect(before - scaleG(cells, 15_000)).to.be.closeTo(
      run.trace.value(run.trace.length - 1, 'waterLostG'),
      0.01,
    );
  });

  it('a conductance tester agrees with the rating when charged, and condemns it flat or cold', () => {
    const rated = AGM_80.crankingA ?? 0;
    expect(conductanceA(standing(1, [], AGM_80)) / rated).to.be.within(0.9, 1.1);
    expect(conductanceA(standing(0.1, [], AGM_80)) / rated).to.be.below(0.9);
    expect(conductanceA(standing(1, [], AGM_80, -5)) / rated).to.be.below(0.85);
  });

  it('a load test passes a sound battery, and collapses on one that only looked fine', () => {
    expect(loadV(standing(1, [], AGM_80), 400, 15)).to.be.above(9.6);
    const tired = standing(1, [{ kind: 'joint', cell: 3, ohms: 0.02 }], AGM_80);
    expect(meterV(tired)).to.be.above(12.7);
    expect(loadV(tired, 400, 15)).to.be.below(4);
  });

  it('an analyser finds reserve capacity', () => {
    const { seconds } = analyse(standing(), 25, 10.5);
    // The trade's shorthand C20 ≈ 0.6·RC gives 117 min for 70 Ah.
    expect(seconds / 60).to.be.closeTo(117, 12);
  });

  it('errors are the instruments’ own and the same for the same seed', () => {
    const truth = 12.6;
    expect(read(truth, 'meterV', 'a')).to.equal(read(truth, 'meterV', 'a'));
    const draws = Array.from({ length: 2000 }, (_, i) => read(truth, 'meterV', `s${i}`) - truth);
    const deviation = Math.sqrt(draws.reduce((sum, each) => sum + each * each, 0) / draws.length);
    expect(deviation).to.be.closeTo(Math.max(ERRORS.meterV.absolute, truth * ERRORS.meterV.share), 5e-4);
  });

  it('refuses a cell that is not there', () => {
    expect(() => hydrometerAt(standing(), 7)).to.throw('cells 1 to 6; there is no cell 7.');
    expect(() => levelOf(standing(), 0)).to.throw(RangeError);
  });
});
