import { expect } from 'chai';
import { CATALOGUE } from '../demo/catalogue.ts';
import { postVolts, rest } from '../model/discharge.ts';
import { makeBattery } from '../model/faults.ts';
import { ratingOf } from '../model/fromType.ts';
import { soundBattery } from '../model/parameters.ts';
import { KIND_LOSS, MONTH_DAYS, speedAt, type StandingKind } from '../battery/selfDischarge.ts';
import { courseOf, standingOf, USUAL_RATE } from './standing.ts';
import { WarmDays, warmthAt, DAY_MS } from './warmth.ts';

const typeOf = (id: string) => {
  const type = CATALOGUE.find((one) => one.id === id);
  if (!type) throw new Error(`no type ${id}`);
  return type;
};

describe('a battery that stands', () => {
  for (const kind of Object.keys(KIND_LOSS) as StandingKind[])
    it(`loses a month what is published, in the cold and in the warm: ${KIND_LOSS[kind].name}`, () => {
      const { from, to } = KIND_LOSS[kind];
      for (const [tempC, times] of [
        [5, 0.25],
        [15, 0.5],
        [25, 1],
        [35, 2],
      ] as const) {
        const course = courseOf(kind, USUAL_RATE);
        const left = course(MONTH_DAYS * speedAt(tempC));
        expect((1 - left) * 100, `${tempC} °C`).to.be.within(from * times * 0.95, to * times);
      }
    });

  for (const [id, mostMv] of [
    ['LW-A12/9', 25],
    ['TQ-F12/14', 25],
  ] as const)
    it(`rests where the cell model has it, over a year and a half: ${id}`, () => {
      const type = typeOf(id);
      const standing = standingOf(type);
      const cells = makeBattery({ parameters: soundBattery(ratingOf(type)), tempC: 25 });
      for (let month = 1; month <= 18; month++) {
        rest(cells, MONTH_DAYS * 86_400);
        const volts = standing.restedV(standing.shareAfter(USUAL_RATE, month * MONTH_DAYS));
        expect(Math.abs(volts - postVolts(cells)) * 1000, `${month} months`).to.be.below(mostMv);
      }
    });

  it('loses 8 to 12 mV with each percent near full, on twelve volts (BCI tables; the trade says 10 to 12)', () => {
    for (const type of CATALOGUE) {
      const standing = standingOf(type);
      const { convertibleAh, ratedAh } = soundBattery(ratingOf(type)).cells[0] ?? {
        convertibleAh: 1,
        ratedAh: 1,
      };
      const aPercentV = (standing.fullV - standing.restedV(1 - (0.1 * ratedAh) / convertibleAh)) / 10;
      expect((aPercentV * 1000 * 6) / type.cells, type.id).to.be.within(7.5, 12);
    }
  });

  it('is told the other way round as well: days to a share, share of a voltage', () => {
    const standing = standingOf(typeOf('LW-A12/9'));
    for (const days of [10, 100, 400, 1200]) {
      const share = standing.shareAfter(USUAL_RATE, days);
      expect(standing.warmDaysTo(USUAL_RATE, share)).to.be.closeTo(days, 2);
      expect(standing.shareAtLoss(standing.fullV - standing.restedV(share))).to.be.closeTo(share, 0.002);
    }
  });
});

describe('warmth of a place', () => {
  const byMonthC = [2, 3, 6, 9, 14, 18, 21, 20, 16, 11, 6, 3];

  it('is a month’s mean in its middle, and goes over evenly to the next, through the new year too', () => {
    const at = (text: string): number => warmthAt({ byMonthC }, Date.parse(text));
    expect(at('2026-07-16T12:00:00Z')).to.be.closeTo(21, 0.1);
    expect(at('2026-01-01T00:00:00Z')).to.be.closeTo(2.5, 0.1);
    expect(at('2026-12-31T23:00:00Z')).to.be.closeTo(2.5, 0.1);
    expect(at('2026-05-01T00:00:00Z')).to.be.closeTo(11.5, 0.2);
  });

  it('counts days as days at 25 °C: four cold ones for one, and back', () => {
    const from = Date.parse('2026-01-01T00:00:00Z');
    const cold = new WarmDays({ tempC: 5 }, from, from + 400 * DAY_MS);
    expect(cold.until(from + 100 * DAY_MS)).to.be.closeTo(25, 1e-9);
    expect(cold.momentOf(25)).to.be.closeTo(from + 100 * DAY_MS, 1000);
    const season = new WarmDays({ byMonthC }, from, from + 400 * DAY_MS);
    for (const days of [3, 77.5, 200, 390])
      expect(season.momentOf(season.until(from + days * DAY_MS))).to.be.closeTo(from + days * DAY_MS, 60_000);
  });
});
