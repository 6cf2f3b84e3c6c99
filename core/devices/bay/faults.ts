/**
 * What switches a bay off: one rule for each way it can go wrong, each in a sentence for whoever comes to look. A rule sees this look and the one before
 * it; when in doubt it speaks.
 */
import { isAnswered, NO_CURRENT_A, type BaySeen, type Held, type SupplySeen } from './seen.ts';

export interface Watched {
  /** What gives the current, or takes it. */
  readonly source: 'supply' | 'load';
  readonly cells: number;
  /** Never passed at the posts, V. */
  readonly ceilingV: number;
  /** Where a load lets go by itself, V. */
  readonly leastV?: number;
  readonly everyS: number;
  /** Of the leads from the supply to the posts, Ω. */
  readonly leadsOhm: number;
}

export interface Look {
  readonly seen: BaySeen;
  readonly supply: SupplySeen;
  readonly before: { readonly seen: BaySeen; readonly supply: SupplySeen } | undefined;
  /** What it was told, since before this look. */
  readonly held: Held;
  /** Whether that is new, so that what it shows may still be on its way there. */
  readonly isNew: boolean;
  /** The most it was told, A: where that is new, also before. */
  readonly mostA: number;
  /** The last look at which it had held the very same for a while, A. */
  readonly settledA: number | undefined;
}

export type FaultId =
  | 'stop-button'
  | 'no-answer'
  | 'off-by-itself'
  | 'on-by-itself'
  | 'set-otherwise'
  | 'more-than-told'
  | 'lead-off'
  | 'reads-otherwise'
  | 'probe'
  | 'cut-off-open'
  | 'late'
  | 'clock'
  | 'not-kept'
  | 'frozen';

export interface Fault {
  readonly id: FaultId;
  readonly says: string;
}

/** A supply regulates and shows within this share of what it is told (practice), and this much, V a cell. */
const OBEYS_WITHIN = 0.05;
const OVER_CELL_V = 0.05;
/** What it says it was told differs by rounding alone, V and A. */
const SET_WITHIN = 0.02;
/** Two instruments at one battery differ by no more, V a cell (leads taken off). */
const AGREE_CELL_V = 0.04;
/** A probe that shows less or more is not on a battery, °C. */
const PROBE_FROM_C = -30;
const PROBE_TO_C = 80;
/** No battery warms or cools faster, K/min (practice: a dead short at C/2 warms by half a kelvin), and a probe's own noise, K. */
const FASTEST_K_PER_MIN = 5;
const PROBE_NOISE_K = 2;
/** A look this late has missed as many, and the clocks of shop and bench part by no more, s. */
const LATE_LOOKS = 2;
const CLOCKS_WITHIN_S = 2;
/** The shop's clock is told so often, s. */
const WORD_S = 0.5;
/** A current of more than this share of what was held, gone within a look, was not taken away by the battery. */
const GONE_SHARE = 0.5;
/** In a demo that runs faster a current tapers away between two looks. */
const FASTEST_PACE = 60;
/** Less than this is lost in a display, A. */
const LEAST_A = 0.03;

const A = (amps: number): string => `${amps.toFixed(2)} A`;
const V = (volts: number): string => `${volts.toFixed(2)} V`;

type Rule = (look: Look, watched: Watched) => string | undefined;

export const STOP_PRESSED = 'The stop button is pressed.';

const RULES: readonly (readonly [FaultId, Rule])[] = [
  [
    'stop-button',
    ({ seen: { stops = [] } }) =>
      stops.some((stop) => isAnswered(stop) && !stop.isFree) ? STOP_PRESSED : undefined,
  ],
  ['not-kept', ({ seen: { unkept } }) => unkept && `Readings can no longer be kept: ${unkept}.`],
  [
    'late',
    ({ seen, before }, { everyS }) => {
      const seconds = before ? seen.atS - before.seen.atS : 0;
      if (before && !(seconds > 0))
        return 'The clock of the bench stands still: its readings are not of now.';
      return seconds > everyS * LATE_LOOKS
        ? `No look for ${seconds.toFixed(1)} s: what the supply did meanwhile is not known.`
        : undefined;
    },
  ],
  [
    'clock',
    ({ seen, before }) => {
      if (!before) return undefined;
      const paces = [before.seen.pace, seen.pace];
      const [slow, fast] = [Math.min(...paces), Math.max(...paces)];
      const seconds = seen.atS - before.seen.atS;
      const passedS = (seen.shopMs - before.seen.shopMs) / 1000;
      // Of a clock that runs faster a word that comes late is late by as much more; another pace is itself heard of up to a word later.
      const words = slow === fast ? 1 : 2;
      const mayS = CLOCKS_WITHIN_S + (fast - 1) * WORD_S * words;
      const apartS = Math.max(slow * seconds - passedS, passedS - fast * seconds);
      return apartS > mayS
        ? `The shop’s clock was moved by ${Math.round(apartS)} s: how long the charge has run is no longer certain.`
        : undefined;
    },
  ],
  [
    'off-by-itself',
    ({ supply: { isOn }, held }, { source }) =>
      held.isOn && !isOn ? `The ${source} has switched itself off.` : undefined,
  ],
  [
    'on-by-itself',
    ({ supply: { isOn }, held }, { source }) =>
      isOn && !held.isOn ? `The ${source} is on where it was told to be off.` : undefined,
  ],
  [
    'set-otherwise',
    ({ supply: { setVolts, setAmps }, held }, { source }) => {
      if (!held.isOn) return undefined;
      if (Math.abs(setVolts - held.volts) > SET_WITHIN)
        return `The ${source} is set to ${V(setVolts)} where ${V(held.volts)} were asked: somebody turned it.`;
      return Math.abs(setAmps - held.amps) > SET_WITHIN
        ? `The ${source} is set to ${A(setAmps)} where ${A(held.amps)} were asked: somebody turned it.`
        : undefined;
    },
  ],
  [
    'more-than-told',
    ({ supply: { volts, amps }, held, isNew, mostA }, { cells, source }) => {
      if (amps > mostA * (1 + OBEYS_WITHIN) + NO_CURRENT_A)
        return `The ${source} ${source === 'load' ? 'draws' : 'gives'} ${A(amps)} where ${A(mostA)} were asked.`;
      if (isNew) return undefined;
      if (amps < -NO_CURRENT_A)
        return source === 'load'
          ? `The load gives ${A(-amps)} into the battery.`
          : `The battery gives ${A(-amps)} into the supply.`;
      return amps > NO_CURRENT_A && volts > held.volts + OVER_CELL_V * cells
        ? `The ${source} shows ${V(volts)} where ${V(held.volts)} were asked.`
        : undefined;
    },
  ],
  [
    'lead-off',
    ({ seen: { pace }, supply: { amps }, settledA, isNew }) =>
      pace <= FASTEST_PACE &&
      !isNew &&
      settledA !== undefined &&
      settledA > LEAST_A &&
      amps < settledA * (1 - GONE_SHARE)
        ? `The current fell from ${A(settledA)} to ${A(amps)} at once: a lead or the battery has come off.`
        : undefined,
  ],
  [
    'reads-otherwise',
    ({ seen: { posts }, supply: { volts, amps } }, { cells, leadsOhm, ceilingV, source }) => {
      if (!posts || !isAnswered(posts)) return undefined;
      if (posts.volts > ceilingV + OVER_CELL_V * cells)
        return `The meter at the posts shows ${V(posts.volts)}, above the ${V(ceilingV)} this battery bears.`;
      // What flows loses volts in the leads: on its way in, and on its way out.
      const lostV = amps * leadsOhm * (source === 'load' ? -1 : 1);
      return Math.abs(volts - lostV - posts.volts) > AGREE_CELL_V * cells
        ? `The ${source} shows ${V(volts)} and the meter at the posts ${V(posts.volts)}: one of them is wrong.`
        : undefined;
    },
  ],
  [
    'probe',
    ({ seen, before }) => {
      const [is, was] = [seen.probe, before?.seen.probe];
      if (!is || !isAnswered(is)) return undefined;
      if (!(is.tempC >= PROBE_FROM_C && is.tempC <= PROBE_TO_C))
        return `The probe shows ${is.tempC.toFixed(0)} °C: it is not on a battery.`;
      if (!before || !was || !isAnswered(was)) return undefined;
      // A battery warms in the shop's time, which a demo paces.
      const mostK = PROBE_NOISE_K + (FASTEST_K_PER_MIN * (seen.shopMs - before.seen.shopMs)) / 60_000;
      return Math.abs(is.tempC - was.tempC) > mostK
        ? `The probe went from ${was.tempC.toFixed(0)} to ${is.tempC.toFixed(0)} °C at once: it has come off.`
        : undefined;
    },
  ],
  [
    'cut-off-open',
    ({ seen: { cutoff } }) =>
      cutoff && isAnswered(cutoff) && !cutoff.isClosed ? 'The cut-off has opened by itself.' : undefined,
  ],
];

const NAMES = { posts: 'meter at the posts', probe: 'probe', cutoff: 'cut-off' } as const;

/** A device of the bay that gave no answer. */
export function unanswered(seen: BaySeen, { source }: Pick<Watched, 'source'>): Fault | undefined {
  for (const device of ['supply', 'posts', 'probe', 'cutoff'] as const) {
    const said = seen[device];
    const name = device === 'supply' ? source : NAMES[device];
    if (said && !isAnswered(said)) return { id: 'no-answer', says: `The ${name}: ${said.trouble}` };
  }
  // A loop that says nothing is taken for one that is open.
  for (const stop of seen.stops ?? [])
    if (!isAnswered(stop)) return { id: 'stop-button', says: `The stop button: ${stop.trouble}` };
  return undefined;
}

/** The first rule that speaks; none where all is well. */
export function faultOf(look: Look, watched: Watched): Fault | undefined {
  for (const [id, rule] of RULES) {
    const says = rule(look, watched);
    if (says !== undefined) return { id, says };
  }
  return undefined;
}
