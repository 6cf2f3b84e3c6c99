/** What can be the matter with a battery that is brought back. */
import type { Construction } from '../battery/construction.ts';
import type { Duty } from '../battery/types.ts';

export const CAUSES = {
  empty: 'Empty and sound',
  'sulfated-light': 'Sulfated, light',
  'sulfated-moderate': 'Sulfated, moderate',
  'sulfated-hard': 'Sulfated, hard',
  dry: 'Dried out',
  layered: 'Acid layered',
  'weak-cell': 'One weak cell',
  'shorted-cell': 'A shorted cell',
  'open-cell': 'An open cell',
  worn: 'Worn out',
  reversed: 'Reversed',
  contaminated: 'Contaminated',
} as const;

export type CauseId = keyof typeof CAUSES;
export const CAUSE_IDS = Object.keys(CAUSES) as CauseId[];

/** One illness in three degrees. */
export const isSulfated = (cause: CauseId): boolean => cause.startsWith('sulfated');

/** A fault of one cell, beside which another may have one of its own. */
export const isOfCell = (cause: CauseId): boolean =>
  cause === 'weak-cell' || cause === 'shorted-cell' || cause === 'open-cell' || cause === 'reversed';

/** What is said of a battery that is brought back, in the words it is asked in. */
export const COMPLAINT_WORDS = {
  unknown: 'Nothing is known',
  'slow-crank': 'It cranks slowly',
  'cold-weather': 'The weather turned',
  'lights-left': 'Lights were left on',
  parked: 'It stood for months',
  'charger-nothing': 'The charger does nothing',
} as const;
export type Complaint = keyof typeof COMPLAINT_WORDS;
export const COMPLAINTS = Object.keys(COMPLAINT_WORDS) as Complaint[];

/** What is known before the first reading. */
export interface History {
  readonly construction: Construction;
  /** What it was made for; a starter's where nobody says. */
  readonly duty?: Duty;
  /** Undefined where nobody knows it: then wear is anything that ten years bring. */
  readonly ageYears?: number;
  /** Months it stood flat; undefined where nobody knows. */
  readonly flatMonths?: number;
  readonly complaint: Complaint;
  /** How many times the handbook's odds each cause has in this shop, where that was learned. */
  readonly here?: Readonly<Record<CauseId, number>>;
}

/**
 * How often each is what is wrong, before anything is known. Handbook 3.2: most batteries returned as bad only
 * need charging; the rest by what practitioners report. Assumed, and wide on purpose: the readings decide.
 */
const USUAL: Record<Construction, Readonly<Record<CauseId, number>>> = {
  flooded: {
    empty: 0.3,
    'sulfated-light': 0.12,
    'sulfated-moderate': 0.12,
    'sulfated-hard': 0.08,
    dry: 0.08,
    layered: 0.05,
    'weak-cell': 0.07,
    'shorted-cell': 0.07,
    'open-cell': 0.02,
    worn: 0.07,
    reversed: 0.01,
    contaminated: 0.01,
  },
  agm: {
    empty: 0.34,
    'sulfated-light': 0.13,
    'sulfated-moderate': 0.13,
    'sulfated-hard': 0.08,
    dry: 0.1,
    layered: 0,
    'weak-cell': 0.06,
    'shorted-cell': 0.045,
    'open-cell': 0.015,
    worn: 0.09,
    reversed: 0.005,
    contaminated: 0.005,
  },
  // Thicker plates held by their gel: they short and shed less, and dry out at the end of a long life (handbook 1 and 4).
  gel: {
    empty: 0.34,
    'sulfated-light': 0.13,
    'sulfated-moderate': 0.12,
    'sulfated-hard': 0.08,
    dry: 0.13,
    layered: 0,
    'weak-cell': 0.06,
    'shorted-cell': 0.025,
    'open-cell': 0.01,
    worn: 0.095,
    reversed: 0.005,
    contaminated: 0.005,
  },
};

/**
 * How much what it was made for speaks for a cause (assumed, by how each is used up): a traction battery by its cycles and by never
 * being charged quite full, a standby one by years on float, which dries and corrodes it and sulfates it little.
 */
const BY_DUTY: Readonly<Record<Duty, Partial<Record<CauseId, number>>>> = {
  starter: {},
  'deep-cycle': { worn: 1.8, layered: 1.8, 'sulfated-light': 1.3, 'sulfated-moderate': 1.3, empty: 0.8 },
  standby: { dry: 1.6, worn: 1.5, 'weak-cell': 1.4, empty: 0.7, 'sulfated-hard': 0.7 },
};

/** How much a complaint speaks for a cause (practice). */
const BY_COMPLAINT: Record<Complaint, Partial<Record<CauseId, number>>> = {
  unknown: {},
  'slow-crank': { worn: 2.5, 'weak-cell': 1.8, 'sulfated-light': 1.3, empty: 0.7 },
  'cold-weather': { worn: 2, 'weak-cell': 1.5, empty: 0.8 },
  'lights-left': { empty: 3, reversed: 1.5, 'shorted-cell': 0.5, worn: 0.7 },
  parked: { 'sulfated-light': 1.6, 'sulfated-moderate': 2, 'sulfated-hard': 1.6, dry: 1.3, worn: 0.7 },
  'charger-nothing': { 'shorted-cell': 1.8, 'open-cell': 3, 'sulfated-hard': 2, reversed: 2, empty: 0.8 },
};

/** Months flat after which hard sulfate is as likely as light (handbook 3.3: no time is a veto, each moves the odds). */
const HARDENS_MONTHS = 6;
/** Years at which wear and dry-out are twice as likely as at none. */
const WEARS_YEARS = 5;
/** Of no age known: the middle of what comes back to a bench (practice), years. */
const USUAL_YEARS = 5;

function byTime(cause: CauseId, { flatMonths, ageYears = USUAL_YEARS }: History): number {
  if (cause === 'worn' || cause === 'dry' || cause === 'shorted-cell') return 0.5 + ageYears / WEARS_YEARS;
  if (flatMonths === undefined) return 1;
  const stood = flatMonths / HARDENS_MONTHS;
  switch (cause) {
    case 'empty':
      return 1 / (1 + stood);
    case 'sulfated-light':
      return 0.5 + Math.min(1, stood);
    case 'sulfated-moderate':
      return 0.3 + Math.min(2, stood);
    case 'sulfated-hard':
      return 0.15 + Math.min(4, stood);
    default:
      return 1;
  }
}

/** Prior probability of each cause; sums to 1. */
export function priorOf(history: History): Readonly<Record<CauseId, number>> {
  const raw = CAUSE_IDS.map(
    (cause) =>
      [
        cause,
        USUAL[history.construction][cause] *
          (BY_DUTY[history.duty ?? 'starter'][cause] ?? 1) *
          (BY_COMPLAINT[history.complaint][cause] ?? 1) *
          byTime(cause, history) *
          (history.here?.[cause] ?? 1),
      ] as const,
  );
  const sum = raw.reduce((total, [, weight]) => total + weight, 0);
  return Object.fromEntries(raw.map(([cause, weight]) => [cause, weight / sum])) as Record<CauseId, number>;
}

/** A cause, and where it lies along its axis, as wide as its odds. */
export interface Possible {
  readonly cause: CauseId;
  readonly from: number;
  readonly width: number;
}

/** Causes a history leaves any odds, side by side from 0 to 1. */
export function possibleCauses(history: History): Possible[] {
  const prior = priorOf(history);
  let below = 0;
  return CAUSE_IDS.flatMap((cause) => {
    const width = prior[cause];
    const from = below;
    below += width;
    return width > 0 ? [{ cause, from, width }] : [];
  });
}
