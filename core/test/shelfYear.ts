/** A year of a shop with many batteries on its shelf, under one rule: what it costs in hands, and what is lost. */
import { HANDS_MIN } from '../shelf/month.ts';
import { harmLineV } from '../battery/shelfLines.ts';
import type { BatteryType } from '../battery/types.ts';
import { chanceFrom, normal } from '../chance/chance.ts';
import { dueOf, type ShelfRules } from '../shelf/due.ts';
import { exposureOf, keptOf } from '../shelf/keeping.ts';
import { speedAt } from '../battery/selfDischarge.ts';
import { daysOf } from '../shelf/exposure.ts';
import type { ShelfEvent } from '../shelf/entries.ts';
import { predict } from '../shelf/prediction.ts';
import { meterSdV } from '../shelf/rate.ts';
import { standingOf } from '../shelf/standing.ts';
import { DAY_MS, warmthAt, type Warmth } from '../shelf/warmth.ts';
import type { Charged } from '../shelf/keeping.ts';

const START = Date.parse('2026-01-05T08:00:00Z');
/** A store under a roof: cold in winter, hot in summer. */
const STORE: Warmth = { byMonthC: [9, 10, 12, 15, 18, 22, 25, 25, 21, 17, 12, 10] };
/** Whoever walks the shelf does so twice a week. */
const WALK_DAYS = [1, 4];
const HARMED_AFTER_DAYS = 14;
/** Hard sulfate and cold and heat: a battery's own rate, a few of a hundred leak. */
const LEAKS = 0.03;

export interface ShelfYear {
  /** Stood below their harm line for longer than two weeks. */
  readonly harmed: number;
  readonly handsMin: number;
  readonly reads: number;
  readonly recharges: number;
}

interface Simulated {
  readonly type: BatteryType;
  /** Of its own rate by its kind's. */
  readonly times: number;
  readonly ownV: number;
  readonly events: ShelfEvent[];
  readonly charges: Charged[];
  /** Warm days since its last charge. */
  stood: number;
  belowDays: number;
  isHarmed: boolean;
}

/** @param types of which the batteries are, in turn */
export function shelfYear(
  types: readonly BatteryType[],
  count: number,
  rules: ShelfRules,
  seed: number,
): ShelfYear {
  const chance = chanceFrom(seed);
  const place = { kind: 'shelf', name: 'Dry rack', warmth: STORE } as const;
  const before = daysOf(STORE, START - 60 * DAY_MS, START);
  const batteries = Array.from({ length: count }, (_, index): Simulated => {
    const type = types[index % types.length];
    if (!type) throw new Error('a shop has types');
    const tag = `SK-${String(index + 1).padStart(4, '0')}`;
    const isLeak = chance() < LEAKS;
    const spread = type.construction === 'flooded' ? Math.log(4) / 2.563 : Math.log(2.5) / 2.563;
    const times = isLeak ? 3 + 5 * chance() : Math.max(0.25, Math.exp(spread * normal(chance)));
    // They were charged over the month before.
    const at = START - Math.floor(28 * chance()) * DAY_MS;
    return {
      type,
      times,
      ownV: 0.02 * normal(chance),
      events: [{ tag, seq: 1, key: '#1', at, by: 'Ines', kind: 'placed', payload: { place } }],
      charges: [{ at, isProven: true }],
      stood: before.until(START) - before.until(at),
      belowDays: 0,
      isHarmed: false,
    };
  });
  let [reads, recharges] = [0, 0];
  for (let day = 0; day < 365; day++) {
    const now = START + day * DAY_MS;
    const speed = speedAt(warmthAt(STORE, now) + 1.5 * normal(chance));
    const isWalk = WALK_DAYS.includes(new Date(now).getUTCDay());
    for (const battery of batteries) {
      const { type, times, events, charges } = battery;
      const standing = standingOf(type);
      battery.stood += speed;
      const volts = battery.ownV + standing.restedV(standing.shareAtRate(times, battery.stood));
      battery.belowDays = volts < harmLineV(type.cells) ? battery.belowDays + 1 : 0;
      if (battery.belowDays > HARMED_AFTER_DAYS) battery.isHarmed = true;
      if (!isWalk) continue;
      const [first] = events;
      if (!first) continue;
      const kept = keptOf(first.tag, events, charges);
      const prediction = predict(type, exposureOf(kept, now), kept.spells, now);
      const wants = dueOf(type, kept, prediction, rules, now).filter(({ by }) => by <= now + 3 * DAY_MS);
      const recharge = (): void => {
        charges.push({ at: now, isProven: true });
        battery.stood = 0;
        recharges += 1;
      };
      if (wants.some(({ want }) => want === 'recharge')) recharge();
      else if (wants.some(({ want }) => want === 'read')) {
        reads += 1;
        const read = volts + meterSdV(volts) * normal(chance);
        events.push({
          ...first,
          seq: events.length + 1,
          at: now,
          kind: 'read',
          payload: { volts: read, source: 'keypad' },
        });
        const after = keptOf(first.tag, events, charges);
        const told = predict(type, exposureOf(after, now), after.spells, now);
        const isDue = dueOf(type, after, told, rules, now).some(
          ({ want, by }) => want === 'recharge' && by <= now + 3 * DAY_MS,
        );
        if (isDue) recharge();
      }
    }
  }
  return {
    harmed: batteries.filter(({ isHarmed }) => isHarmed).length,
    handsMin: reads * HANDS_MIN.read + recharges * HANDS_MIN.recharge,
    reads,
    recharges,
  };
}
