import { expect } from 'chai';
import { CATALOGUE } from '../demo/catalogue.ts';
import { densityAt } from '../electrolyte/density.ts';
import { ACID_G_PER_AH } from '../electrolyte/faraday.ts';
import { AGM_80, FLOODED_70 } from '../test/modelBench.ts';
import { SOUND } from './battery.ts';
import { draw, rest } from './discharge.ts';
import { makeBattery } from './faults.ts';
import { ratingOf } from './fromType.ts';
import { subjectOfType } from '../charge/subject.ts';
import { soundBattery, soundCell, twentyHourAh } from './parameters.ts';
import { StringState } from './state.ts';

describe('parameters from a label', () => {
  for (const type of CATALOGUE)
    it(`${type.id}: enough acid for its plates, and the resistance its cranking rating implies`, () => {
      const rating = ratingOf(type);
      const cell = soundCell(rating);
      // Acid must outlast the charge: else the plates could not be used to the end.
      expect(cell.acidG / ACID_G_PER_AH / cell.convertibleAh).to.be.within(1.05, 1.9);
      const solutionG = cell.acidG + cell.waterG;
      expect(densityAt(cell.acidG / solutionG, 25)).to.be.within(1.26, 1.335);
      const ohms = type.cells * (cell.metalOhm + cell.acidOhm);
      const amps = type.cranking?.amps ?? 0;
      expect((2.55 * (type.cells / 6)) / ohms / amps).to.be.within(0.85, 1.15);
    });

  it('takes pack acid as it is: its mass goes into the cells', () => {
    const type = CATALOGUE.find(({ id }) => id === 'LW-A12/9');
    if (!type?.pack) throw new Error('no such type');
    const cell = soundCell(ratingOf(type));
    expect(6 * (cell.acidG + cell.waterG)).to.be.closeTo(type.pack.volumeMl * type.pack.densityKgPerL, 1e-6);
  });

  it('brings a ten-hour capacity to twenty hours by its class’s table, and leaves a twenty-hour one', () => {
    const agm = { construction: 'agm', duty: 'starter' } as const;
    expect(twentyHourAh({ ...agm, capacityAh: 80, hourRate: 20 })).to.equal(80);
    expect(twentyHourAh({ ...agm, capacityAh: 12, hourRate: 10 })).to.be.closeTo(
      12 * 2 ** (1 - 1 / 1.12),
      1e-9,
    );
    expect(
      twentyHourAh({ construction: 'gel', duty: 'deep-cycle', capacityAh: 12, hourRate: 10 }),
    ).to.be.closeTo(12 / 0.935, 1e-9);
    expect(twentyHourAh({ ...agm, capacityAh: 10, hourRate: 5 })).to.be.above(
      twentyHourAh({ ...agm, capacityAh: 10, hourRate: 10 }),
    );
  });

  it('a ten-hour label gives what it says, drawn at its own rate to 1.75 V a cell', () => {
    for (const [construction, crankingA] of [
      ['flooded', 160],
      ['agm', 160],
    ] as const) {
      const rating = {
        construction,
        duty: 'starter',
        cells: 6,
        capacityAh: 14,
        hourRate: 10,
        crankingA,
      } as const;
      const cells = makeBattery({ parameters: soundBattery(rating) });
      const { seconds } = draw(cells, 1.4, 10.5, 20 * 3600);
      expect((1.4 * seconds) / 3600 / 14, construction).to.be.within(0.97, 1.05);
    }
  });

  it('does not mix up cranking standards', () => {
    const sae = (standard: 'SAE' | 'EN' | 'IEC' | 'DIN'): number =>
      soundCell({ ...AGM_80, crankingStandard: standard }).crankingA;
    expect(sae('SAE')).to.equal(800);
    expect(sae('EN')).to.be.closeTo(800 / 0.9, 1e-9);
    expect(sae('DIN')).to.be.above(sae('IEC'));
  });

  it('assumes cranking current where the label is silent', () => {
    const { crankingA: _amps, crankingStandard: _standard, ...silent } = FLOODED_70;
    expect(soundCell(silent).crankingA * 0.9).to.be.within(400, 900);
  });

  for (const [wrong, sentence] of [
    [{ cells: 0 }, 'A battery has 1 to 12 cells in series; 0 is not possible.'],
    [{ cells: 6.5 }, '6.5 is not possible'],
    [{ capacityAh: 0 }, 'Capacity must lie between 0.5 and 3000 Ah; 0 Ah does not.'],
    [{ capacityAh: 80_000 }, '80000 Ah does not.'],
    [{ hourRate: 0 }, 'The hour rate must lie between 1 and 120 h; 0 h does not.'],
    [
      { crankingA: 12 },
      'Cranking current must lie between 1 and 40 times the capacity, here 80 to 3200 A; 12 A',
    ],
    [{ acidDensity: 1300 }, 'The density of acid in g/cm³ must lie between'],
  ] as const)
    it(`refuses ${JSON.stringify(wrong)} in one sentence`, () => {
      expect(() => soundBattery({ ...AGM_80, ...wrong })).to.throw(RangeError, sentence);
    });

  it('reads the limits of a type, what was entered on the job first', () => {
    const type = CATALOGUE.find(({ id }) => id === 'LW-A12/12');
    if (!type) throw new Error('no such type');
    expect(subjectOfType(type)).to.deep.equal({
      construction: 'agm',
      cells: 6,
      capacityAh: 12,
      labelA: 1.2,
      labelHours: 5,
    });
    expect(subjectOfType(type, { chargeCurrentA: 1.5, ceilingV: 14.4 })).to.include({
      labelA: 1.5,
      labelV: 14.4,
    });
  });
});

describe('putting a battery together', () => {
  it('solves alike cells once, and an odd one apart', () => {
    const parameters = soundBattery(FLOODED_70);
    const groups = (faults: Parameters<typeof makeBattery>[0]['faults']): number[] => [
      ...makeBattery({ parameters, faults: faults ?? [] }).counts,
    ];
    expect(groups([])).to.deep.equal([6]);
    expect(groups([{ kind: 'worn', share: 0.7 }])).to.deep.equal([6]);
    expect(groups([{ kind: 'short', cell: 4, ohms: 1 }])).to.deep.equal([5, 1]);
    expect(
      groups([
        { kind: 'worn', share: 0.7 },
        { kind: 'dry', share: 0.1, cell: 1 },
        { kind: 'joint', cell: 6, ohms: 0.01 },
      ]),
    ).to.deep.equal([1, 4, 1]);
  });

  it('wants a cell that exists', () => {
    const parameters = soundBattery({ ...FLOODED_70, cells: 3 });
    expect(() => makeBattery({ parameters, faults: [{ kind: 'open', cell: 4 }] })).to.throw(
      'This battery has cells 1 to 3; there is no cell 4.',
    );
  });

  it('keeps a state as plain numbers and takes it back', () => {
    const cells = makeBattery({ parameters: soundBattery(FLOODED_70), condition: { ...SOUND, charge: 0.4 } });
    rest(cells, 3600);
    const kept = cells.state.values();
    rest(cells, 10 * 24 * 3600);
    expect(cells.state.values()).not.to.deep.equal(kept);
    cells.state.restore(kept);
    expect(cells.state.values()).to.deep.equal(kept);
    expect(() => new StringState(2).restore(kept)).to.throw(RangeError, '36 numbers is needed');
  });
});
