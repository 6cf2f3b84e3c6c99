import { expect } from 'chai';
import { clockColumn, isOrderOpen, readClock, type DateOrder } from './clock.ts';

const DAY = 1440;

describe('a clock', () => {
  for (const [text, day, minute] of [
    ['00:05:30', undefined, 5.5],
    ['36:00', undefined, 36 * 60],
    ['1970-01-02 00:01:00', 1, 1],
    ['1970-01-02T00:01:00Z', 1, 1],
    ['1970-01-02T00:01:00.500Z', 1, 1 + 0.5 / 60],
    ['1970-01-02T02:01:00+02:00', 1, 121],
    ['02.01.1970 00:01', 1, 1],
    ['1/2/70 12:01 AM', 36_556, 1],
    ['2/1/1970 12:01 AM', 1, 1],
    ['2/1/1970 12:01 PM', 1, 721],
    ['02.01.1970', 1, undefined],
    ['00:00:00,5', undefined, 0.5 / 60],
  ] as const)
    it(`“${text}” is read`, () => {
      const found = readClock(text);
      expect(found?.day).to.equal(day);
      if (minute === undefined) expect(found?.minute).to.equal(undefined);
      else expect(found?.minute).to.be.closeTo(minute, 1e-9);
    });

  for (const text of [
    '12.60',
    '',
    'soon',
    '13/13/2026 08:00',
    '2026-02-30 08:00',
    '2026-13-01',
    '08:61',
    '2026-03-10 25:00',
    '3/10/2026 13:05 PM',
  ])
    it(`“${text}” is none`, () => expect(readClock(text)).to.equal(undefined));

  it('knows where day and month could stand the other way round', () => {
    expect(isOrderOpen('03/01/2026 23:58')).to.equal(true);
    expect(isOrderOpen('03/03/2026')).to.equal(false);
    expect(isOrderOpen('2026-03-01')).to.equal(false);
  });
});

describe('a column of clocks', () => {
  const minutes = (texts: readonly string[], order: DateOrder = 'dmy', zone = 'Europe/Oslo'): number[] => {
    const all = [...clockColumn(texts, order, zone)];
    return all.map((one) => Math.round((one - (all[0] ?? 0)) * 1000) / 1000);
  };

  it('without dates goes over midnight, and over the next', () => {
    expect(minutes(['23:50', '00:10', '23:00', '01:00'])).to.deep.equal([0, 20, 1390, 1510]);
  });

  it('that runs backwards is not made to run forwards', () => {
    expect(minutes(['12:00', '11:50'])).to.deep.equal([0, -10]);
    expect(minutes(['2026-03-10 12:00', '2026-03-09 12:00'])).to.deep.equal([0, -DAY]);
  });

  it('by month and day is three minutes from 03/01 23:58 to 03/02 00:01', () => {
    expect(minutes(['03/01/2026 23:58', '03/02/2026 00:01'], 'mdy')).to.deep.equal([0, 3]);
  });

  it('of the shop’s zone goes over the hour that is left out in spring', () => {
    expect(
      minutes(['2026-03-29 01:50', '2026-03-29 01:59', '2026-03-29 03:00', '2026-03-29 03:10']),
    ).to.deep.equal([0, 9, 10, 20]);
  });

  it('and over the hour that comes twice in autumn', () => {
    expect(
      minutes([
        '2026-10-25 01:50',
        '2026-10-25 02:30',
        '2026-10-25 02:50',
        '2026-10-25 02:10',
        '2026-10-25 02:50',
        '2026-10-25 03:10',
        '2026-10-25 04:00',
      ]),
    ).to.deep.equal([0, 40, 60, 80, 120, 140, 190]);
  });

  it('in UTC or with its own offset needs no zone', () => {
    expect(minutes(['2026-10-25T00:50:00Z', '2026-10-25T01:50:00Z'])).to.deep.equal([0, 60]);
    expect(minutes(['2026-10-25T02:50:00+02:00', '2026-10-25T02:10:00+01:00'])).to.deep.equal([0, 20]);
  });
});
