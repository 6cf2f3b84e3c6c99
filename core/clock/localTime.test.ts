import { expect } from 'chai';
import { axisText, durationText, momentText, whenText } from './clockText.ts';
import { localText, momentOf, zoneOffsetMs } from './localTime.ts';

describe('wall-clock text', () => {
  for (const zone of ['Etc/UTC', 'Europe/Oslo', 'America/St_Johns'])
    it(`goes there and back in ${zone}`, () => {
      expect(localText(momentOf('2026-07-10T17:05', zone), zone)).to.equal('2026-07-10T17:05');
    });

  it('reads the shop’s zone, not the machine’s', () => {
    expect(momentOf('2026-03-10T17:00', 'Europe/Oslo')).to.equal(Date.parse('2026-03-10T16:00:00Z'));
  });

  it('is no number for what is no time', () => {
    expect(momentOf('tomorrow', 'Etc/UTC')).to.deep.equal(Number.NaN);
  });

  it('names the day only where it is needed', () => {
    const now = Date.parse('2026-03-10T14:06:00Z');
    const hour = 3_600_000;
    expect(whenText(now + hour, now, 'Etc/UTC')).to.equal('15:06');
    expect(whenText(now + 20 * hour, now, 'Etc/UTC')).to.equal('Wed 10:06');
    expect(whenText(now + 240 * hour, now, 'Etc/UTC')).to.equal('20 Mar 2026 14:06');
  });

  it('writes a promise with its day, and the year only where it is another', () => {
    const now = Date.parse('2026-03-10T14:06:00Z');
    const hour = 3_600_000;
    expect(momentText(now + 20 * hour, now, 'Etc/UTC')).to.equal('Wed 11 Mar 10:06');
    expect(momentText(now + 300 * 24 * hour, now, 'Etc/UTC')).to.equal('Mon 4 Jan 2027 14:06');
  });

  it('names the day that begins where an axis passes midnight, by the shop’s clocks', () => {
    const midnight = Date.parse('2026-03-10T23:00:00Z');
    expect(axisText(midnight, 'Europe/Oslo')).to.equal('Wed 11');
    expect(axisText(midnight, 'Etc/UTC')).to.equal('23:00');
    expect(zoneOffsetMs(midnight, 'Europe/Oslo')).to.equal(3_600_000);
    expect(zoneOffsetMs(midnight, 'America/St_Johns')).to.equal(-2.5 * 3_600_000);
  });

  it('writes durations as one says them', () => {
    expect([25, 125, 60 * 76].map((minutes) => durationText(minutes * 60_000))).to.deep.equal([
      '25 min',
      '2 h 05',
      '3 d 4 h',
    ]);
  });
});
