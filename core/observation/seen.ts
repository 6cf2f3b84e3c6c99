/** What is only seen, and not measured: how likely eyes are to call it so, were the battery a candidate. */
import { get } from '../model/state.ts';
import type { Bubbles, Level } from './modelView.ts';
import type { ChargerView, Reading } from './readings.ts';
import type { Shown } from './shown.ts';

/** Odds that a reading is a slip of hand or eye, whatever the battery. */
const SLIP = 0.02;
/** What was seen, when a candidate would show something else: a slip. */
const seen = (isSame: boolean, isNear: boolean): number => Math.log(isSame ? 1 - SLIP : isNear ? 0.2 : SLIP);

const CHARGER_VIEWS: readonly ChargerView[] = ['refuses', 'stuck', 'finishes'];
const BUBBLES: readonly Bubbles[] = ['none', 'few', 'lively'];

/**
 * What one calls bubbles, by what there are (assumed). Whether it is a few or lively is a matter of opinion, and of all
 * cells at once, so it says little; that one is silent says much.
 */
const BUBBLES_SEEN: Readonly<Record<Bubbles, Readonly<Record<Bubbles, number>>>> = {
  none: { none: 0.75, few: 0.2, lively: 0.05 },
  few: { none: 0.15, few: 0.5, lively: 0.35 },
  lively: { none: SLIP, few: 0.45, lively: 0.53 },
};
const LEVELS: readonly Level[] = ['at-line', 'low', 'plates-bare'];

/** A leak this large keeps its cell empty whatever the charger gives, Ω. */
const STUCK_OHM = 0.2;
/** And a joint this poor lets nothing worth the name through, Ω. */
const OPEN_OHM = 0.3;

/** What an automatic charger would make of a candidate (handbook 3.2). */
function chargerView(shown: Shown, startV: number): ChargerView {
  if (shown.ocvV() < startV) return 'refuses';
  const { p, state, groups } = shown.cells;
  for (let g = 0; g < groups; g++)
    if (get(p.shortS, g) > 1 / STUCK_OHM || get(p.jointOhm, g) > OPEN_OHM || get(state.reversed, g) > 1e-3)
      return 'stuck';
  return 'finishes';
}

/** What a charger made of it, were the battery this candidate. */
function viewSeen(view: ChargerView, expected: ChargerView): number {
  return seen(expected === view, expected !== 'finishes' && view !== 'finishes');
}

function levelSeen(level: Level, expected: Level): number {
  const apart = Math.abs(LEVELS.indexOf(level) - LEVELS.indexOf(expected));
  return seen(apart === 0, apart === 1);
}

/**
 * Of what is only seen: how likely it is that no more is seen than was, from one end of what there is to see to the other.
 * @returns chances below what was seen, and up to it; undefined of what is measured
 */
export function seenBetween(
  reading: Reading,
  found: Shown,
): readonly [below: number, upTo: number] | undefined {
  const shown = found.at(reading);
  const among = <T>(all: readonly T[], one: T, logOf: (each: T) => number): readonly [number, number] => {
    const chances = all.map((each) => Math.exp(logOf(each)));
    const whole = chances.reduce((sum, chance) => sum + chance, 0);
    const place = all.indexOf(one);
    const below = chances.slice(0, place).reduce((sum, chance) => sum + chance, 0) / whole;
    return [below, below + (chances[place] ?? 0) / whole];
  };
  switch (reading.kind) {
    case 'charger': {
      const expected = chargerView(shown, reading.startV);
      return among(CHARGER_VIEWS, reading.view, (view) => viewSeen(view, expected));
    }
    case 'level': {
      const expected = shown.level(reading.cell);
      return among(LEVELS, reading.level, (level) => levelSeen(level, expected));
    }
    case 'bubbles': {
      const rise = shown.bubbles(reading.cell);
      return among(BUBBLES, reading.bubbles, (bubbles) => Math.log(BUBBLES_SEEN[rise][bubbles]));
    }
    default:
      return undefined;
  }
}

/** Logarithm of the likelihood of what was seen, were the battery this candidate; undefined of what is measured. */
export function seenLog(reading: Reading, found: Shown): number | undefined {
  switch (reading.kind) {
    case 'charger':
      return viewSeen(reading.view, chargerView(found.at(reading), reading.startV));
    case 'level':
      return levelSeen(reading.level, found.at(reading).level(reading.cell));
    case 'bubbles':
      return Math.log(BUBBLES_SEEN[found.at(reading).bubbles(reading.cell)][reading.bubbles]);
    default:
      return undefined;
  }
}
