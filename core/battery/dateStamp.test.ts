import { expect } from 'chai';
import fc from 'fast-check';
import { readDateCode } from './dateStamp.ts';

const NOW = Date.parse('2026-11-28T12:00:00Z');
const first = (stamp: string): string => {
  const [one] = readDateCode(stamp, NOW);
  return one ? `${one.dateCode} · ${one.words}` : '';
};

describe('stamped date codes', () => {
  for (const [stamp, reading] of [
    ['2026-01', '2026-01 · January 2026'],
    ['01/2026', '2026-01 · January 2026'],
    ['1/26', '2026-01 · January 2026'],
    ['5225', '2025-12 · week 52 of 2025: December 2025'],
    ['A6', '2026-01 · A for the month: January 2026'],
    ['m4', '2024-12 · M, I left out: December 2024'],
    ['03226', '2026-02 · day 32 of 2026: February 2026'],
    ['36625', ''],
    ['180126', '2026-01 · day, month, year: January 2026'],
    ['202511', '2025-11 · year and month: November 2025'],
    ['9999', ''],
    ['made in June', ''],
    ['', ''],
  ] as const)
    it(`“${stamp}” is read as ${reading === '' ? 'nothing' : reading}`, () => {
      expect(first(stamp)).to.equal(reading);
    });

  it('every reading that can be is given, the most recent first', () => {
    expect(readDateCode('0326', NOW).map(({ words }) => words)).to.deep.equal([
      'March 2026',
      'day 32 of 2026: February 2026',
      'week 3 of 2026: January 2026',
      'day 32 of 2016: February 2016',
      'week 26 of 2003: June 2003',
    ]);
  });

  it('whatever is typed, no month lies ahead, none is named twice, none is older than a quarter of a century', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 8 }), fc.stringMatching(/^[A-M0-9/]{2,6}$/), (any, likely) => {
        for (const stamp of [any, likely]) {
          const months = readDateCode(stamp, NOW).map(({ dateCode }) => dateCode);
          expect(new Set(months).size).to.equal(months.length);
          for (const month of months) expect(month >= '2001-11' && month <= '2026-11', month).to.equal(true);
        }
      }),
    );
  });
});
