import { expect } from 'chai';
import { holdOf, type HoldQuestion } from './hold.ts';

const DAY = 24 * 3_600_000;

function hold(
  lostMv: number,
  days: number,
  more: Partial<HoldQuestion> & { readonly beforeC?: number; readonly afterC?: number } = {},
) {
  const { beforeC = 21, afterC = 21, ...rest } = more;
  return holdOf({
    construction: 'agm',
    cells: 6,
    capacityAh: 55,
    before: { at: 0, volts: 12.85, tempC: beforeC },
    after: { at: days * DAY, volts: 12.85 - lostMv / 1000, tempC: afterC },
    ...rest,
  });
}

describe('the hold', () => {
  for (const [what, lostMv, days, verdict] of [
    ['a healthy AGM’s 7 mV in a week', 7, 7, 'held'],
    ['30 mV in a week, at the edge of what a meter tells', 30, 7, 'held'],
    ['60 mV in a week', 60, 7, 'doubtful'],
    ['200 mV in a week', 200, 7, 'leak'],
    ['20 mV in a day', 20, 1, 'held'],
    ['150 mV in a day', 150, 1, 'leak'],
  ] as const)
    it(`${what}: ${verdict}`, () => {
      expect(hold(lostMv, days).verdict).to.equal(verdict);
    });

  it('a flooded battery may lose what antimonial plates lose; what that is for one cell alone is told', () => {
    expect(hold(60, 7).verdict).to.equal('doubtful');
    const flooded = hold(54, 7, { construction: 'flooded' });
    expect(flooded.verdict).to.equal('held');
    expect(flooded.oneCellShare).to.be.closeTo(0.32, 0.01);
  });

  it('a warm week takes more than a cold one', () => {
    const allowed = (tempC: number): number =>
      hold(0, 7, { construction: 'flooded', beforeC: tempC, afterC: tempC }).allowedV;
    expect(allowed(35)).to.be.above(allowed(15) + 0.02);
  });

  it('two readings at different warmth are brought to the same: 15 K cooler reads 22 mV lower and lost nothing', () => {
    expect(hold(22, 1, { beforeC: 25, afterC: 10 }).lostV).to.be.closeTo(0, 0.001);
  });

  it('half as many cells lose half the volts', () => {
    const three = hold(100, 7, { cells: 3 });
    expect(three.verdict).to.equal('leak');
    expect(hold(15, 7, { cells: 3 }).verdict).to.equal('held');
  });

  it('fitted for the week, the vehicle’s draw is taken off before a leak is said', () => {
    expect(hold(130, 7).verdict).to.equal('leak');
    const measured = hold(130, 7, { fitted: { drawMa: 30 } });
    expect(measured.verdict).to.equal('held');
    expect(measured.sentence).to.include('the vehicle’s 30 mA taken off');
    const assumed = hold(130, 7, { fitted: {} });
    expect(assumed.verdict).to.equal('held');
    expect(assumed.sentence).to.include('taken as 30 to 50 mA since nobody measured it');
  });
});
