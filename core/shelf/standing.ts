/**
 * A battery that stands: what is left of its charge after so many days at 25 °C, and what voltage it rests at. What it loses is a
 * fraction of what is left; the sulfate that leaves grows hard, and hard sulfate makes it lose faster: the equations of the cell
 * model (docs/model.md), without a current.
 */
import type { Construction } from '../battery/construction.ts';
import { KIND_LOSS, MONTH_DAYS, type StandingKind } from '../battery/selfDischarge.ts';
import type { BatteryType } from '../battery/types.ts';
import { cellEmf, molality } from '../electrolyte/emf.ts';
import { ACID_G_PER_AH, WATER_MADE_G_PER_AH } from '../electrolyte/faraday.ts';
import { HARDENING_PER_DAY } from '../model/constants.ts';
import { ratingOf } from '../model/fromType.ts';
import { soundCell, type CellParameters } from '../model/parameters.ts';

export const kindOf = ({ construction }: Pick<BatteryType, 'construction'>): StandingKind => construction;

/** Rates told apart, as multiples of what is usual for the kind: a fifth of it to thirty-eight times as much. */
const RATE_STEP = 0.09;
const [SLOWER, FASTER] = [18, 40] as const;
export const RATES: Float64Array = Float64Array.from({ length: SLOWER + 1 + FASTER }, (_, index) =>
  Math.exp((index - SLOWER) * RATE_STEP),
);
/** The one its kind usually has. */
export const USUAL_RATE = SLOWER;

/** Warm days between two points of a table, and the last: four years in a warm shop. */
const EVERY = 4;
const POINTS = 376;

/** Molality of a cell's acid with a share of its charge left. */
function molalityAt({ acidG, waterG, convertibleAh }: CellParameters, share: number): number {
  const gone = convertibleAh * (1 - share);
  const acid = acidG - ACID_G_PER_AH * gone;
  const water = waterG + WATER_MADE_G_PER_AH * gone;
  return Math.max(1e-3, molality(acid / (acid + water)));
}

/** A cell of each construction that the hardening of sulfate is taken from; their acid is alike. */
const TYPICAL: Readonly<Record<Construction, CellParameters>> = {
  agm: soundCell({ construction: 'agm', duty: 'standby', cells: 6, capacityAh: 12, hourRate: 10 }),
  gel: soundCell({ construction: 'gel', duty: 'standby', cells: 6, capacityAh: 12, hourRate: 10 }),
  flooded: soundCell({ construction: 'flooded', duty: 'starter', cells: 6, capacityAh: 60, hourRate: 20 }),
};

const constructionOf = (kind: StandingKind): Construction =>
  kind === 'agm' || kind === 'pureLead' ? 'agm' : kind === 'gel' ? 'gel' : 'flooded';

/** Share of charge left at every fourth warm day from full, standing at one rate. */
function course(kind: StandingKind, rate: number): Float64Array {
  const cell = TYPICAL[constructionOf(kind)];
  // A month's percent as a rate of what is left.
  const perDay = (-Math.log(1 - KIND_LOSS[kind].usual / 100) / MONTH_DAYS) * rate;
  const shares = new Float64Array(POINTS);
  let [share, hard] = [1, 0];
  shares[0] = 1;
  for (let day = 1; day < POINTS * EVERY; day++) {
    const soft = Math.max(0, 1 - share - hard);
    const flat = (1 - share) * (1 - share) * (1.5 / (0.5 + molalityAt(cell, share)));
    const hardening = HARDENING_PER_DAY * flat;
    hard += (soft * hardening) / (1 + hardening);
    share *= Math.exp(-perDay * (1 + 2 * hard));
    if (day % EVERY === 0) shares[day / EVERY] = share;
  }
  return shares;
}

/** Steps of charge, from empty to full, that days and voltages are worked out for. */
const STEPS = 200;

/** The same the other way round: warm days from full at each step of charge; beyond the table it goes on as it did last. */
function daysByShare(shares: Float64Array): Float64Array {
  const days = new Float64Array(STEPS + 1);
  const last = shares[POINTS - 1] as number;
  const slope = ((shares[POINTS - 2] as number) - last) / EVERY;
  let point = 0;
  for (let step = STEPS; step >= 0; step--) {
    const share = step / STEPS;
    while (point < POINTS - 2 && (shares[point + 1] as number) > share) point += 1;
    const [before, after] = [shares[point] as number, shares[point + 1] as number];
    days[step] =
      share < last
        ? (POINTS - 1) * EVERY + (last - share) / Math.max(1e-9, slope)
        : (point + (before - share) / Math.max(1e-12, before - after)) * EVERY;
  }
  return days;
}

/** Between two points of a course; beyond the last it goes on as it did. */
function along(shares: Float64Array, warmDays: number): number {
  const at = Math.max(0, warmDays) / EVERY;
  const low = Math.min(POINTS - 2, Math.floor(at));
  const before = shares[low] as number;
  return Math.max(0, before + (at - low) * ((shares[low + 1] as number) - before));
}

/** How one kind stands at each rate. */
interface Courses {
  readonly shares: readonly Float64Array[];
  readonly days: readonly Float64Array[];
}

const courses = new Map<StandingKind, Courses>();

function coursesOf(kind: StandingKind): Courses {
  const known = courses.get(kind);
  if (known) return known;
  const shares = Array.from(RATES, (rate) => course(kind, rate));
  const made = { shares, days: shares.map(daysByShare) };
  courses.set(kind, made);
  return made;
}

/** @returns what is left of a full charge of a kind after so many warm days, at one rate */
export function courseOf(kind: StandingKind, rate: number): (warmDays: number) => number {
  const shares = coursesOf(kind).shares[rate] as Float64Array;
  return (warmDays) => along(shares, warmDays);
}

/** What one type rests at, from empty to full, V at 25 °C. */
function voltsOf(type: BatteryType): Float64Array {
  const cell = soundCell(ratingOf(type));
  return Float64Array.from(
    { length: STEPS + 1 },
    (_, step) => type.cells * cellEmf(molalityAt(cell, step / STEPS)),
  );
}

/** The same the other way round: charge at each step of voltage from empty to full. */
function sharesByVolts(volts: Float64Array): Float64Array {
  const [empty, full] = [volts[0] as number, volts[STEPS] as number];
  let step = 0;
  return Float64Array.from({ length: STEPS + 1 }, (_, index) => {
    const wanted = empty + (index / STEPS) * (full - empty);
    while (step < STEPS - 1 && (volts[step + 1] as number) < wanted) step += 1;
    const [before, after] = [volts[step] as number, volts[step + 1] as number];
    return (step + (wanted - before) / (after - before)) / STEPS;
  });
}

/** Between two of the steps of a table. @param at from 0 to 1 */
function between(table: Float64Array, at: number): number {
  const place = Math.min(1, Math.max(0, at)) * STEPS;
  const low = Math.min(STEPS - 1, Math.floor(place));
  const before = table[low] as number;
  return before + (place - low) * ((table[low + 1] as number) - before);
}

/** Batteries of one type that stand. */
export class Standing {
  readonly kind: StandingKind;
  readonly cells: number;
  readonly capacityAh: number;
  /** A full one of the type, by its acid, V. */
  readonly fullV: number;
  private readonly emptyV: number;
  private readonly courses: Courses;
  private readonly volts: Float64Array;
  private readonly shares: Float64Array;

  constructor(type: BatteryType) {
    this.kind = kindOf(type);
    this.cells = type.cells;
    this.capacityAh = type.capacityAh;
    this.courses = coursesOf(this.kind);
    this.volts = voltsOf(type);
    this.shares = sharesByVolts(this.volts);
    this.emptyV = this.volts[0] as number;
    this.fullV = this.volts[STEPS] as number;
  }

  /** @param share of charge left @returns V at 25 °C */
  restedV(share: number): number {
    return between(this.volts, share);
  }

  /** @returns share of charge left of one that rests so much below its own full, V */
  shareAtLoss(lossV: number): number {
    return between(this.shares, 1 - lossV / (this.fullV - this.emptyV));
  }

  /** @param rate index into {@link RATES} @returns share of charge left after so many warm days from full */
  shareAfter(rate: number, warmDays: number): number {
    return along(this.courses.shares[rate] as Float64Array, warmDays);
  }

  /** The same at any rate, as a multiple of what is usual for its kind: between two of {@link RATES}. */
  shareAtRate(times: number, warmDays: number): number {
    const at = Math.log(times) / RATE_STEP + SLOWER;
    const below = Math.min(RATES.length - 2, Math.max(0, Math.floor(at)));
    const part = Math.min(1, Math.max(0, at - below));
    return this.shareAfter(below, warmDays) * (1 - part) + this.shareAfter(below + 1, warmDays) * part;
  }

  /** @returns warm days from full until a share is left */
  warmDaysTo(rate: number, share: number): number {
    return between(this.courses.days[rate] as Float64Array, share);
  }
}

const known = new WeakMap<BatteryType, Standing>();

/** Of one type, made once. */
export function standingOf(type: BatteryType): Standing {
  const there = known.get(type);
  if (there) return there;
  const made = new Standing(type);
  known.set(type, made);
  return made;
}
