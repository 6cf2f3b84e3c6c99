import { expect } from 'chai';
import fc from 'fast-check';
import { ChargeEngine } from '../charge/engine.ts';
import { ModelRun } from '../charge/modelRun.ts';
import { planFor, PLAN_NAMES, refusalOf } from '../charge/library.ts';
import { ACID_G_PER_AH, WATER_MADE_G_PER_AH, WATER_SPLIT_G_PER_AH } from '../electrolyte/faraday.ts';
import {
  AGM_80,
  chargeOn,
  EVERY_FAULT,
  FLOODED_70,
  partCharged,
  sixDifferent,
  steadyCharge,
  subjectOf,
} from '../test/modelBench.ts';
import type { CellString } from './cellString.ts';
import { SURFACE_AS_PER_V_AH } from './constants.ts';
import { draw } from './discharge.ts';
import { makeBattery, type Fault } from './faults.ts';
import { soundBattery, type Rating } from './parameters.ts';
import { acidG, waterG } from './show.ts';
import { get } from './state.ts';

const sulfateAh = ({ state }: CellString, g: number): number => get(state.soft, g) + get(state.hard, g);

describe('conservation', () => {
  for (const [name, faults] of EVERY_FAULT)
    it(`${name}: all charge in is stored, gassed, leaked or stood away`, () => {
      const cells = partCharged(sixDifferent(FLOODED_70), faults);
      const before = Array.from({ length: cells.groups }, (_, g) => sulfateAh(cells, g));
      const charge = chargeOn(FLOODED_70, cells, steadyCharge(FLOODED_70, 7, 24));
      charge.runUntil(24 * 3600);
      const inAh = get(cells.state.shared, 1);
      for (let g = 0; g < cells.groups; g++) {
        const stored = (before[g] ?? 0) - sulfateAh(cells, g) + get(cells.state.selfAh, g);
        const surface = (SURFACE_AS_PER_V_AH * get(cells.p.ratedAh, g) * get(cells.state.surface, g)) / 3600;
        const spent = get(cells.state.gasAh, g) + get(cells.state.shortAh, g);
        expect(stored + surface + spent).to.be.closeTo(inAh, 1e-6 * Math.max(1, inAh) + 1e-5);
      }
    });

  it('acid, water and gas: what the plates took and gave, by charge counted at the posts', () => {
    const cells = partCharged(sixDifferent(FLOODED_70), [], 0.3);
    const mass = (g: number): number => acidG(cells, g) + waterG(cells, g);
    const before = Array.from({ length: cells.groups }, (_, g) => mass(g));
    const charge = chargeOn(FLOODED_70, cells, steadyCharge(FLOODED_70));
    charge.runUntil(48 * 3600);
    // The charge at the posts, summed from the trace, tells what the plates gave back; gas took the rest.
    for (let g = 0; g < cells.groups; g++) {
      const surface = (SURFACE_AS_PER_V_AH * 70 * get(cells.state.surface, g)) / 3600;
      const platesAh =
        get(cells.state.shared, 1) - get(cells.state.gasAh, g) - surface - get(cells.state.selfAh, g);
      const gasG = WATER_SPLIT_G_PER_AH * (get(cells.state.gasAh, g) + get(cells.state.selfAh, g));
      const expected = (before[g] ?? 0) + platesAh * (ACID_G_PER_AH - WATER_MADE_G_PER_AH) - gasG;
      expect(mass(g) / expected).to.be.closeTo(1, 1e-6);
    }
  });

  it('energy in is stored, gone with gas, or heat; the heat warms the case and leaves it', () => {
    const cells = partCharged(sixDifferent(AGM_80), [], 0.3);
    const charge = chargeOn(AGM_80, cells, steadyCharge(AGM_80), { steps: { longestS: 20 } });
    charge.runUntil(20 * 3600);
    // Energy at the posts by trapezium over the trace: nothing of it comes from the model's own account.
    const { trace } = charge;
    let inJ = 0;
    let lostJ = 0;
    for (let row = 1; row < trace.length; row++) {
      const seconds = trace.seconds(row) - trace.seconds(row - 1);
      const power = (at: number): number => trace.value(at, 'volts') * trace.value(at, 'amps');
      inJ += (seconds * (power(row) + power(row - 1))) / 2;
      lostJ +=
        seconds *
        cells.parameters.heatLossWPerK *
        ((trace.value(row, 'tempC') + trace.value(row - 1, 'tempC')) / 2 - 25);
    }
    const [caseC = 0, , , , storedJ = 0, gasJ = 0] = cells.state.shared;
    const warmedJ = cells.parameters.heatCapacityJPerK * (caseC - 25);
    expect((storedJ + gasJ + warmedJ + lostJ) / inJ).to.be.closeTo(1, 0.002);
    // Stored enthalpy by the state alone: about 2.03 V per cell and Ah at these strengths (Bode, Harned & Hamer).
    const storedAh = get(cells.state.shared, 1) - get(cells.state.gasAh, 0);
    expect(storedJ / (storedAh * 3600 * 6)).to.be.within(1.95, 2.1);
  });

  it('alike cells solved once give what six solved apart give', () => {
    const parameters = soundBattery(AGM_80);
    const apart = { ...parameters, cells: parameters.cells.map((cell) => ({ ...cell })) };
    const end = (of: typeof parameters): ModelRun => {
      const charge = chargeOn(AGM_80, partCharged(of, []), steadyCharge(AGM_80));
      charge.runUntil(30 * 3600);
      return charge;
    };
    const once = end(parameters);
    const six = end(apart);
    expect([once.cells.groups, six.cells.groups]).to.deep.equal([1, 6]);
    expect(once.volts()).to.be.closeTo(six.volts(), 1e-6);
    expect(get(once.cells.state.shared, 1)).to.be.closeTo(get(six.cells.state.shared, 1), 1e-6);
  });
});

describe('any battery, any plan', () => {
  const rating = fc.record({
    construction: fc.constantFrom('agm' as const, 'flooded' as const, 'gel' as const),
    duty: fc.constantFrom('starter' as const, 'deep-cycle' as const, 'standby' as const),
    cells: fc.integer({ min: 1, max: 12 }),
    capacityAh: fc.double({ min: 2, max: 250, noNaN: true }),
    hourRate: fc.constantFrom(5, 10, 20, 100),
  });
  const fault: fc.Arbitrary<readonly Fault[]> = fc.constantFrom(
    ...EVERY_FAULT.map(([, faults]) => faults.map((each) => ('cell' in each ? { ...each, cell: 1 } : each))),
  );

  it('gives numbers, no negative mass, and no limit passed', () => {
    fc.assert(
      fc.property(
        rating,
        fault,
        fc.constantFrom(...PLAN_NAMES.map(({ id }) => id)),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.integer({ min: -10, max: 45 }),
        (label: Rating, faults, id, charge, tempC) => {
          const subject = subjectOf(label);
          fc.pre(refusalOf(id, subject) === undefined);
          const cells = partCharged(soundBattery(label), faults, charge, tempC);
          const run = new ModelRun(cells, new ChargeEngine(planFor(id, subject), subject));
          const startV = run.volts();
          run.runUntil(30 * 3600);
          const { ceilings } = run.engine;
          for (let row = 0; row < run.trace.length; row++) {
            const volts = run.trace.value(row, 'volts');
            expect(volts).to.be.within(-3 * label.cells, Math.max(ceilings.volts + 0.002, startV + 0.01));
            expect(run.trace.value(row, 'amps')).to.be.within(-1e-2, ceilings.amps * 1.001 + 1e-6);
            expect(run.trace.value(row, 'hottestC')).to.be.within(-15, 95);
            expect(run.trace.value(row, 'density')).to.be.within(0.99, 1.6);
          }
          for (let g = 0; g < cells.groups; g++) {
            expect(acidG(cells, g)).to.be.above(0);
            expect(waterG(cells, g)).to.be.above(0);
            expect(get(cells.state.soft, g)).to.be.above(-1e-6 * label.capacityAh);
            expect(get(cells.state.hard, g)).to.be.above(-1e-9);
          }
        },
      ),
      { numRuns: 120, seed: 20260310 },
    );
  });

  it('can be discharged to nothing and beyond', () => {
    fc.assert(
      fc.property(
        rating,
        fault,
        fc.double({ min: 0.02, max: 3, noNaN: true }),
        (label: Rating, faults, rate) => {
          const cells = makeBattery({ parameters: soundBattery(label), faults });
          const drawn = draw(cells, label.capacityAh * rate, -1.5 * label.cells, (2 / rate) * 3600);
          expect(drawn.endV).to.satisfy(Number.isFinite);
          for (let g = 0; g < cells.groups; g++) expect(acidG(cells, g)).to.be.above(0);
        },
      ),
      { numRuns: 60, seed: 7 },
    );
  });
});
