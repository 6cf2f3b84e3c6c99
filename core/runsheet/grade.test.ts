import { expect } from 'chai';
import { CATALOGUE } from '../battery/catalogue.ts';
import { capacityShareOf, gradeOf, held } from './grade.ts';

describe('the grade', () => {
  for (const [what, proof, grade] of [
    [
      'both high and held for a week',
      { capacityShare: 0.85, crankingShare: 0.9, heldDay: true, heldWeek: true },
      'A',
    ],
    [
      'both high, the week still to come',
      { capacityShare: 0.85, crankingShare: 0.9, heldDay: true },
      'A pending',
    ],
    ['cranking high, capacity never measured', { crankingShare: 0.95, heldDay: true, heldWeek: true }, 'B'],
    [
      'the lower of the two decides',
      { capacityShare: 0.65, crankingShare: 0.9, heldDay: true, heldWeek: true },
      'B',
    ],
    ['cranking lower than capacity', { capacityShare: 0.9, crankingShare: 0.5, heldDay: true }, 'C'],
    ['capacity below 40 %', { capacityShare: 0.3, crankingShare: 0.9, heldDay: true }, 'R'],
    ['exactly 80 %', { capacityShare: 0.8, crankingShare: 0.8, heldDay: true, heldWeek: true }, 'A'],
    ['it did not hold', { capacityShare: 0.9, crankingShare: 0.9, heldDay: false }, 'R'],
    [
      'it failed the week only',
      { capacityShare: 0.9, crankingShare: 0.9, heldDay: true, heldWeek: false },
      'R',
    ],
    ['it collapsed under load', { capacityShare: 0.9, crankingShare: 0.9, hasCollapsed: true }, 'R'],
    ['nothing was measured', {}, 'C'],
  ] as const)
    it(`${what}: ${grade}`, () => {
      const { grade: given, because, use } = gradeOf(proof);
      expect(given).to.equal(grade);
      expect(because).to.match(/[.]$/);
      expect(use.length).to.be.above(5);
    });

  it('says that capacity was not measured when that is what keeps it from A', () => {
    expect(gradeOf({ crankingShare: 0.95 }).because).to.include('capacity was not measured');
  });
});

describe('capacity from a test', () => {
  const type = CATALOGUE.find(({ id }) => id === 'BK-F12/70');
  if (!type) throw new Error('no such type');

  it('117 minutes at 25 A on a sound 70 Ah flooded battery are about its rating (handbook 7, k 1.2)', () => {
    expect(capacityShareOf({ method: 'reserve', reserveMin: 117 }, type, 25)).to.be.within(0.95, 1.05);
  });

  it('corrects cold drawings upwards by 0.8 % a kelvin', () => {
    const warm = capacityShareOf({ method: 'slow', drawnAh: 49 }, type, 25) ?? 0;
    expect(warm).to.be.closeTo(0.7, 1e-9);
    expect(capacityShareOf({ method: 'slow', drawnAh: 49 }, type, 15)).to.be.closeTo(warm / 0.92, 1e-9);
  });

  it('is nothing when nothing was drawn: a cranking figure is never reported as capacity', () => {
    expect(capacityShareOf({ testerA: 600 }, type, 25)).to.equal(undefined);
  });
});

describe('the hold', () => {
  it('allows self-discharge and no more, scaled to the cells', () => {
    expect(held(12.85, 12.81, 'day', 6)).to.equal(true);
    expect(held(12.85, 12.7, 'day', 6)).to.equal(false);
    expect(held(12.85, 12.76, 'week', 6)).to.equal(true);
    expect(held(6.4, 6.36, 'day', 3)).to.equal(false);
    expect(held(12.85, undefined, 'day', 6)).to.equal(undefined);
  });
});
