import { expect } from 'chai';
import { CATALOGUE } from '../demo/catalogue.ts';
import { capacityMethods, capacityShareOf, gradeOf, type Proof } from './grade.ts';

describe('the grade', () => {
  const held = { day: 'held', week: 'held' } as const;
  for (const [what, proof, grade] of [
    ['both high and held for a week', { capacityShare: 0.85, crankingShare: 0.9, ...held }, 'A'],
    [
      'both high, the week still to come',
      { capacityShare: 0.85, crankingShare: 0.9, day: 'held' },
      'A pending',
    ],
    ['cranking high, capacity never measured', { crankingShare: 0.95, ...held }, 'B'],
    ['the lower of the two decides', { capacityShare: 0.65, crankingShare: 0.9, ...held }, 'B'],
    ['cranking lower than capacity', { capacityShare: 0.9, crankingShare: 0.5, day: 'held' }, 'C'],
    ['capacity below 40 %', { capacityShare: 0.3, crankingShare: 0.9, day: 'held' }, 'R'],
    ['exactly 80 %', { capacityShare: 0.8, crankingShare: 0.8, ...held }, 'A'],
    ['it leaked within the day', { capacityShare: 0.9, crankingShare: 0.9, day: 'leak' }, 'R'],
    [
      'it leaked over the week only',
      { capacityShare: 0.9, crankingShare: 0.9, day: 'held', week: 'leak' },
      'R',
    ],
    [
      'a doubtful hold condemns nobody',
      { capacityShare: 0.9, crankingShare: 0.9, day: 'held', week: 'doubtful' },
      'B',
    ],
    ['nobody looked whether it holds', { capacityShare: 0.9, crankingShare: 0.9 }, 'B'],
    ['it collapsed under load', { capacityShare: 0.9, crankingShare: 0.9, hasCollapsed: true }, 'R'],
    ['a load test passed is no cranking figure', { capacityShare: 0.9, loadPassed: true, ...held }, 'B'],
    ['a load test failed', { capacityShare: 0.9, loadPassed: false, ...held }, 'C'],
    ['nothing was measured', {}, 'C'],
    [
      'no cranking rating: capacity grades it, and A is possible',
      { isRated: false, capacityShare: 0.85, ...held },
      'A',
    ],
    [
      'no cranking rating, resistance half as much again as its own baseline',
      { isRated: false, capacityShare: 0.85, resistanceRatio: 1.5, ...held },
      'B',
    ],
  ] as const satisfies readonly (readonly [string, Partial<Proof>, string])[])
    it(`${what}: ${grade}`, () => {
      const { grade: given, because, use } = gradeOf({ isRated: true, ...proof });
      expect(given).to.equal(grade);
      expect(because).to.match(/[.]$/);
      expect(use.length).to.be.above(5);
    });

  it('says that capacity was not measured when that is what keeps it from A', () => {
    expect(gradeOf({ isRated: true, crankingShare: 0.95, ...held }).because).to.include(
      'Capacity was not measured',
    );
  });
});

describe('capacity from a test', () => {
  const type = CATALOGUE.find(({ id }) => id === 'BK-F12/70');
  if (!type) throw new Error('no such type');

  it('117 minutes at 25 A on a sound 70 Ah flooded battery are about its rating (handbook 7, k 1.2)', () => {
    expect(capacityShareOf({ method: 'reserve', reserveMin: 117 }, type, 25)).to.be.within(0.95, 1.05);
  });

  it('corrects cold drawings upwards, slow ones by 0.6 % a kelvin and fast ones by 1 %', () => {
    const warm = capacityShareOf({ method: 'slow', drawnAh: 49 }, type, 25) ?? 0;
    expect(warm).to.be.closeTo(0.7, 1e-9);
    expect(capacityShareOf({ method: 'slow', drawnAh: 49 }, type, 15)).to.be.closeTo(warm / 0.94, 1e-9);
    const fast = (tempC: number): number =>
      capacityShareOf({ method: 'reserve', reserveMin: 60 }, type, tempC) ?? 0;
    expect(fast(15)).to.be.closeTo(fast(25) / 0.9, 1e-9);
  });

  it('is nothing when nothing was drawn: a cranking figure is never reported as capacity', () => {
    expect(capacityShareOf({ testerA: 600 }, type, 25)).to.equal(undefined);
  });

  it('by C/10 is held against the ten-hour capacity of its class', () => {
    expect(capacityShareOf({ method: 'tenth', drawnAh: 64 }, type, 25)).to.be.closeTo(1, 0.01);
  });

  it('25 A are offered from 40 Ah only: on 9 Ah they are 2.8 times its capacity', () => {
    expect(capacityMethods({ capacityAh: 9 })).to.deep.equal(['slow', 'tenth']);
    expect(capacityMethods({ capacityAh: 55 })).to.include('reserve');
  });
});
