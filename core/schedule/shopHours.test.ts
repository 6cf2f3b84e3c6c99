import { expect } from 'chai';
import { closedSpans, nextOpenMoment, openSpanFrom, type ShopHours } from './shopHours.ts';

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
