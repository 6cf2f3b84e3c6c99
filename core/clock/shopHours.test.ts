import { expect } from 'chai';
import { localText, momentOf } from './localTime.ts';
import { closedSpans, nextOpenMoment, OpenTimes, openSpanFrom, type ShopHours } from './shopHours.ts';

const day: readonly [number, number] = [8 * 60, 18 * 60];
const hours: ShopHours = { timeZone: 'Europe/Oslo', week: [null, day, day, day, day, day, null] };
const at = (iso: string): number => Date.parse(iso);

describe('shop hours', () => {
  it('finds the span that holds a moment, in the shop’s own zone', () => {
    expect(openSpanFrom(hours, at('2026-03-10T14:06:00+01:00'))).to.deep.equal({
      from: at('2026-03-10T08:00:00+01:00'),
      to: at('2026-03-10T18:00:00+01:00'),
    });
  });

  it('goes to Monday from Friday evening', () => {
    expect(nextOpenMoment(hours, at('2026-03-13T18:00:00+01:00'))).to.equal(at('2026-03-16T08:00:00+01:00'));
  });

  it('keeps eight o’clock across the change to summer time', () => {
    expect(nextOpenMoment(hours, at('2026-03-28T12:00:00+01:00'))).to.equal(at('2026-03-30T08:00:00+02:00'));
  });

  for (const [zone, changes] of [
    ['Europe/Dublin', ['2026-03-29', '2026-10-25']],
    ['America/New_York', ['2026-03-08', '2026-11-01']],
  ] as const)
    it(`opens and closes by the wall clock of ${zone} on the days the clocks change`, () => {
      const sunday: ShopHours = { timeZone: zone, week: Array.from({ length: 7 }, () => [8 * 60, 18 * 60]) };
      for (const date of changes) {
        const { from, to } = openSpanFrom(sunday, momentOf(`${date}T09:30`, zone));
        expect(localText(from, zone)).to.equal(`${date}T08:00`);
        expect(localText(to, zone)).to.equal(`${date}T18:00`);
        expect((to - from) / 3_600_000).to.equal(10);
        const night = momentOf(`${date}T00:30`, zone);
        expect(localText(nextOpenMoment(sunday, night), zone)).to.equal(`${date}T08:00`);
      }
    });

  it('is closed on a holiday, whatever the weekday', () => {
    const christmas: ShopHours = { ...hours, holidays: ['2026-12-24', '2026-12-25'] };
    expect(nextOpenMoment(christmas, at('2026-12-23T19:00:00+01:00'))).to.equal(
      at('2026-12-28T08:00:00+01:00'),
    );
  });

  describe('at lunch', () => {
    const lunching: ShopHours = { ...hours, lunch: [12 * 60, 13 * 60] };

    it('there are no hands, and the shop is not closed', () => {
      const noon = at('2026-03-10T12:20:00+01:00');
      expect(nextOpenMoment(lunching, noon)).to.equal(at('2026-03-10T13:00:00+01:00'));
      expect(openSpanFrom(lunching, noon).to).to.equal(at('2026-03-10T18:00:00+01:00'));
      expect(new OpenTimes(lunching, noon, noon + 1e9).nextOpen(noon)).to.equal(
        at('2026-03-10T13:00:00+01:00'),
      );
    });

    it('it is shaded with the closed hours', () => {
      expect(
        closedSpans(lunching, at('2026-03-10T11:00:00+01:00'), at('2026-03-10T17:00:00+01:00')),
      ).to.deep.equal([{ from: at('2026-03-10T12:00:00+01:00'), to: at('2026-03-10T13:00:00+01:00') }]);
    });

    it('one that lasts until closing leaves nobody until the next day', () => {
      const early: ShopHours = { ...hours, lunch: [17 * 60, 18 * 60] };
      expect(nextOpenMoment(early, at('2026-03-10T17:10:00+01:00'))).to.equal(
        at('2026-03-11T08:00:00+01:00'),
      );
    });
  });

  it('lists the closed hours of a window', () => {
    const spans = closedSpans(hours, at('2026-03-10T12:00:00+01:00'), at('2026-03-11T09:00:00+01:00'));
    expect(spans).to.deep.equal([
      { from: at('2026-03-10T18:00:00+01:00'), to: at('2026-03-11T08:00:00+01:00') },
    ]);
  });

  it('treats a shop without opening hours as open', () => {
    const never: ShopHours = { timeZone: 'Etc/UTC', week: [null, null, null, null, null, null, null] };
    expect(nextOpenMoment(never, 5)).to.equal(5);
  });
});
