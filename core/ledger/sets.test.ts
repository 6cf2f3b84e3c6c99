import { expect } from 'chai';
import { chanceFrom } from '../chance/chance.ts';
import { apartOf, SET_LIMITS, setsOf as setsWithin, shelfOf, type Apart, type Member } from './sets.ts';

const LIMITS = SET_LIMITS.handbook;
const setsOf = (members: readonly Member[], size: number, limits: Apart = LIMITS) =>
  setsWithin(members, size, limits);
import type { Finding } from './finding.ts';

const member = (tag: string, more: Partial<Member> = {}): Member => ({
  tag,
  typeId: 'BK-A12/55',
  dateCode: '2024-03',
  capacityShare: 0.8,
  milliohm: 6,
  ocvV: 12.8,
  ...more,
});

const tags = (members: readonly Member[], size = 2): string[] =>
  setsOf(members, size).map((set) => set.members.map(({ tag }) => tag).join('+'));

const finding = (tag: string, more: Partial<Finding> = {}): Finding => ({
  job: `job ${tag}`,
  tag,
  typeId: 'BK-A12/55',
  construction: 'agm',
  dateCode: '2024-03',
  endedAt: 1,
  outcome: 'recovered',
  grade: 'B',
  routes: [],
  ocvV: 12.8,
  crankingA: 420,
  milliohm: 6,
  capacityShare: 0.8,
  spent: { handsMin: 10, bayH: 24, mainsWh: 500, waterMl: 0 },
  ...more,
});

describe('matching into sets', () => {
  for (const [what, more, isAlike] of [
    ['capacity within 5 %', { capacityShare: 0.765 }, true],
    ['capacity further apart', { capacityShare: 0.755 }, false],
    ['resistance within 10 %', { milliohm: 6.6 }, true],
    ['resistance further apart', { milliohm: 6.7 }, false],
    ['rested within 0.05 V', { ocvV: 12.85 }, true],
    ['rested further apart', { ocvV: 12.86 }, false],
    ['a year between them', { dateCode: '2025-03' }, true],
    ['more than a year', { dateCode: '2025-04' }, false],
    ['of another kind', { typeId: 'BK-F12/70' }, false],
  ] as const)
    it(`${what}: ${isAlike ? 'a pair' : 'none'}`, () => {
      expect(tags([member('SK-1'), member('SK-2', more)])).to.deep.equal(isAlike ? ['SK-1+SK-2'] : []);
    });

  it('takes the closest first and no battery twice', () => {
    const shelf = [
      member('SK-1', { capacityShare: 0.8 }),
      member('SK-2', { capacityShare: 0.78 }),
      member('SK-3', { capacityShare: 0.781 }),
      member('SK-4', { capacityShare: 0.805 }),
    ];
    expect(tags(shelf)).to.deep.equal(['SK-2+SK-3', 'SK-1+SK-4']);
  });

  it('holds every limit between any two, whatever lies on the shelf and in whatever order', () => {
    const chance = chanceFrom(31);
    for (let shelf = 0; shelf < 40; shelf++) {
      const members = Array.from({ length: 3 + Math.floor(12 * chance()) }, (_, index) =>
        member(`SK-${100 + index}`, {
          typeId: chance() < 0.5 ? 'BK-A12/55' : 'TQ-A12/30',
          dateCode: `2024-0${1 + Math.floor(9 * chance())}`,
          capacityShare: 0.7 + 0.1 * chance(),
          milliohm: 5.5 + chance(),
          ocvV: 12.75 + 0.1 * chance(),
        }),
      );
      const size = 2 + (shelf % 3);
      const sets = setsOf(members, size);
      expect(setsOf([...members].reverse(), size)).to.deep.equal(sets);
      const used = sets.flatMap((set) => set.members.map(({ tag }) => tag));
      expect(new Set(used).size).to.equal(used.length);
      for (const set of sets) {
        expect(set.members).to.have.length(size);
        for (const one of set.members)
          for (const other of set.members) {
            const apart = apartOf([one, other]);
            expect(other.typeId).to.equal(one.typeId);
            for (const name of Object.keys(LIMITS) as (keyof Apart)[])
              expect(apart[name], name).to.be.at.most(LIMITS[name] + 1e-9);
          }
      }
    }
  });

  it('a full shelf is matched to the last battery', () => {
    const chance = chanceFrom(7);
    const shelf = Array.from({ length: 61 }, (_, index) =>
      member(`SK-${100 + index}`, { capacityShare: 0.8 + 0.02 * chance(), ocvV: 12.79 + 0.02 * chance() }),
    );
    expect(setsOf(shelf, 2)).to.have.length(30);
    expect(setsOf(shelf, 4)).to.have.length(15);
  });

  it('what is left over has no partner left', () => {
    const chance = chanceFrom(8);
    const shelf = Array.from({ length: 50 }, (_, index) =>
      member(`SK-${100 + index}`, { capacityShare: 0.5 + 0.4 * chance(), milliohm: 4 + 4 * chance() }),
    );
    const used = setsOf(shelf, 2).flatMap((set) => set.members);
    const left = shelf.filter((one) => !used.includes(one));
    expect(left.length).to.be.within(1, 49);
    for (const one of left)
      for (const other of left) {
        const apart = apartOf([one, other]);
        const isPair =
          apart.capacityShare <= LIMITS.capacityShare && apart.resistanceShare <= LIMITS.resistanceShare;
        expect(isPair && one !== other, `${one.tag} with ${other.tag}`).to.equal(false);
      }
  });

  it('a set of one is refused in one sentence', () => {
    expect(() => setsOf([member('SK-1')], 1)).to.throw(RangeError, 'A set has at least 2 batteries; 1 came.');
  });
});

describe('what stands on the shelf for matching', () => {
  it('is what was recovered and fully measured; the rest says what was not', () => {
    const { capacityShare: _capacity, ...uncounted } = finding('SK-2');
    const { members, leftOut } = shelfOf([
      finding('SK-1'),
      uncounted,
      finding('SK-3', { outcome: 'retired', grade: 'R' }),
      finding('SK-4', { outcome: 'certified' }),
    ]);
    expect(members.map(({ tag }) => tag)).to.deep.equal(['SK-1']);
    expect(leftOut).to.deep.equal([{ tag: 'SK-2', why: 'capacity not measured' }]);
  });

  it('goes by the latest of a battery, and leaves out what is on the bench again', () => {
    const before = finding('SK-1', { endedAt: 1, capacityShare: 0.9 });
    const after = finding('SK-1', { endedAt: 2, capacityShare: 0.7 });
    expect(shelfOf([after, before]).members[0]?.capacityShare).to.equal(0.7);
    expect(shelfOf([before, finding('SK-1', { endedAt: 3, outcome: 'retired' })]).members).to.deep.equal([]);
  });
});
