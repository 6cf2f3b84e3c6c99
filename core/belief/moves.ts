/**
 * Where a candidate may go next: along the line between two others of its cause, or by a leap to another cause or to
 * coordinates drawn anew. Whether it goes there the readings decide ({@link Belief}).
 */
import { isSulfated, possibleCauses, type CauseId, type Possible } from '../candidate/causes.ts';
import type { Chance } from '../chance/chance.ts';
import { shownOf, type Shown } from '../observation/shown.ts';
import { AXES, between, type Axis, type Point } from '../candidate/cube.ts';
import { meaningOf, SCALED, traitsOf, type Setting, type Traits } from '../candidate/traits.ts';

const HARD_AXIS = AXES.indexOf('hard');
const CHARGE_AXIS = AXES.indexOf('charge');
/** The axis of the cause: a choice, leapt along and never nudged. */
const CAUSE_AXIS = AXES.indexOf('cause');

/** How often a coordinate takes part in a nudge: alone or with a few, or all along one line. */
const TAKES_PART = [0.3, 0.7, 1] as const;
/** A nudge goes along the line between two other candidates, this far, with a little jitter. @see ter Braak 2006 */
const ALONG = [0.5, 0.75, 1] as const;
const JITTER = 0.01;
/**
 * How often a nudge asks no other candidate, lest all stay in the few directions a small group leaves: one to three coordinates, by
 * anything from a hundredth of an axis to half of it.
 */
const BY_ITSELF = 0.3;
const FEW = 3;
const STEPS: readonly [smallest: number, largest: number] = [-2, -0.3];
/** Of leaps to a given cause the share that keeps all else; and of the coordinates of the others those drawn anew. */
const ELSE_ALIKE = 0.5;
const DRAWN_ANEW = 0.15;
/**
 * Or, as often, what an illness has of it is drawn anew by half and the rest of the piece kept: worn or one weak cell tell much the same,
 * and one goes with much wear, the other with little.
 */
const OTHER_ILLNESS = 0.5;
const ILLNESS_ANEW = 0.5;
const ILL_AXES: readonly Axis[] = [
  'hard',
  'film',
  'wear',
  'cell',
  'severity',
  'water',
  'layers',
  'low',
  'second',
  'other',
  'force',
];
const IS_ILL = AXES.map((axis) => ILL_AXES.includes(axis));
/** Of leaps that keep all else: those that keep what it means instead of where it lies. */
const MEANS_ALIKE = 0.6;
const HALVINGS = 40;
const SCALE_OVER = 1e-6;
/** Of leaps and of nudges: those after which it still stands at the same voltage, its charge solved for. */
const STANDS_ALIKE = 0.7;
const NUDGED_ALIKE = 0.2;
/** How close the voltage is met, V; how often it is tried; and over how much of the axis its slope is taken. */
const MET_V = 1e-3;
const TRIES = 14;
const SECANTS = 4;
const SLOPE_OVER = 0.004;
/** The upper end of an axis; 1 itself lies outside the cube. */
const TOP = 1 - 1e-9;

/** Where a candidate stands now. */
interface Standing {
  readonly point: Point;
  readonly traits: Traits;
  readonly shown: Shown;
}

/** Where a move goes, and the logarithm of what its change of variable weighs. */
export interface Move {
  readonly point: Point;
  readonly log: number;
}

export class Moves {
  /** Causes this history leaves any odds. */
  readonly possible: readonly Possible[];
  private readonly setting: Setting;
  private readonly chance: Chance;
  /** Worked out once for each point one moves from. */
  private readonly slopes = new WeakMap<Point, number>();

  constructor(setting: Setting, chance: Chance) {
    this.setting = setting;
    this.chance = chance;
    this.possible = possibleCauses(setting.history);
  }

  /** The odds of a cause before anything was read. */
  widthOf(cause: CauseId): number {
    return this.possible.find((one) => one.cause === cause)?.width ?? 1;
  }

  anyOf<T>(list: readonly T[]): T | undefined {
    return list[Math.floor(this.chance() * list.length)];
  }

  /** Two different ones, in either order; none of a group of one. */
  private twoOf(alike: readonly Standing[]): readonly (Point | undefined)[] {
    const first = Math.floor(this.chance() * alike.length);
    const second = Math.floor(this.chance() * (alike.length - 1));
    return alike.length < 2 ? [] : [alike[first]?.point, alike[second < first ? second : second + 1]?.point];
  }

  /**
   * Along the line between two others of the same cause; the cause itself is a choice, never nudged.
   * @param alike others, which stand still meanwhile
   */
  nudged(here: Standing, alike: readonly Standing[]): Move | undefined {
    const point = this.chance() < BY_ITSELF ? this.walked(here.point) : this.alongOthers(here.point, alike);
    return this.chance() < NUDGED_ALIKE ? this.standingAlike(here, point) : { point, log: 0 };
  }

  private walked(from: Point): Point {
    const point = from.slice();
    const axes = 1 + Math.floor(this.chance() * FEW);
    for (let moved = 0; moved < axes; moved++) {
      const axis = CAUSE_AXIS + 1 + Math.floor(this.chance() * (from.length - CAUSE_AXIS - 1));
      const step = 10 ** between(STEPS, this.chance());
      point[axis] = reflected((point[axis] as number) + step * (2 * this.chance() - 1));
    }
    return point;
  }

  private alongOthers(from: Point, alike: readonly Standing[]): Point {
    const [one, other] = this.twoOf(alike);
    const far = this.anyOf(ALONG) ?? 0.5;
    const takesPart = this.anyOf(TAKES_PART) ?? 1;
    return from.map((value, axis) => {
      if (axis === CAUSE_AXIS || this.chance() > takesPart) return value;
      const along = one && other ? far * ((one[axis] as number) - (other[axis] as number)) : 0;
      return reflected(value + along + JITTER * (2 * this.chance() - 1));
    });
  }

  /**
   * Some coordinates drawn anew, with the cause or without.
   * @param to a cause; where none is given, the causes' own odds draw one
   * @param isAllAlike whether nothing but the cause, and the charge that goes with it, may change
   * @returns undefined where no charge would let it stand at the same voltage
   */
  leapt(here: Standing, to: Possible | undefined, isAllAlike = false): Move | undefined {
    const isElseAlike = isAllAlike || (to !== undefined && this.chance() < ELSE_ALIKE);
    const isOtherDegree = to !== undefined && isSulfated(to.cause) && isSulfated(here.traits.cause);
    if (to && isElseAlike && this.chance() < MEANS_ALIKE) return this.meaningAlike(here, to);
    const isOtherIllness = !isElseAlike && to !== undefined && this.chance() < OTHER_ILLNESS;
    const anew = (axis: number): number => (isOtherIllness ? (IS_ILL[axis] ? ILLNESS_ANEW : 0) : DRAWN_ANEW);
    const point = here.point.map((value, axis) => {
      if (axis === CAUSE_AXIS) return to ? to.from + to.width * this.chance() : this.chance();
      // Where one degree of sulfation ends the next begins.
      if (axis === HARD_AXIS && isElseAlike && isOtherDegree && to.cause !== here.traits.cause)
        return 1 - value;
      return !isElseAlike && this.chance() < anew(axis) ? this.chance() : value;
    });
    return this.chance() < STANDS_ALIKE ? this.standingAlike(here, point) : { point, log: 0 };
  }

  /**
   * To a cause with every degree of every illness as it was: what is told on another scale there is found on it.
   * The change of variable weighs in by the slopes. @see Green 1995 (reversible jumps)
   */
  private meaningAlike(here: Standing, to: Possible): Move | undefined {
    const { setting } = this;
    const point = here.point.slice();
    point[CAUSE_AXIS] = to.from + to.width * this.chance();
    let log = 0;
    for (const axis of SCALED) {
      const index = AXES.indexOf(axis);
      const place = here.point[index] as number;
      const under =
        (cause: CauseId) =>
        (where: number): number =>
          meaningOf(axis, cause, where, setting);
      const [from, onto] = [under(here.traits.cause), under(to.cause)];
      const slope = slopeOf(from, place);
      // The same scale, or one that stands still at the same: it keeps its place.
      if (onto(place) === from(place) && slopeOf(onto, place) === slope) continue;
      const found = placeWhere(onto, from(place));
      if (found === undefined) return undefined;
      const slopeThere = slopeOf(onto, found);
      // What stands still on one scale alone could not be found again from the other.
      if (slope === 0 || slopeThere === 0) return undefined;
      point[index] = found;
      log += Math.log(slope / slopeThere);
    }
    if (this.chance() >= STANDS_ALIKE) return { point, log };
    const standing = this.standingAlike(here, point);
    return standing && { point: standing.point, log: standing.log + log };
  }

  /**
   * The same point with as much charge as lets it stand at the voltage the other stands at: what nearly every
   * battery is asked first. The change of variable weighs in by the slopes. @see Green 1995 (reversible jumps)
   */
  private standingAlike({ point: from, shown }: Standing, to: Point): Move | undefined {
    const slope = this.slopeAt(from);
    const charge = this.chargeFor(to, shown.ocvV(), slope);
    if (charge === undefined) return undefined;
    const point = to.map((value, axis) => (axis === CHARGE_AXIS ? charge : value));
    const log = Math.log(slope / this.slopeAt(point));
    return Number.isFinite(log) ? { point, log } : undefined;
  }

  private standsAt(point: Point, charge: number): number {
    const { setting } = this;
    const moved = point.map((value, axis) => (axis === CHARGE_AXIS ? charge : value));
    const shown = shownOf(traitsOf(moved, setting), setting);
    const volts = shown.ocvV();
    shown.letGo();
    return volts;
  }

  /** Volts per length of the axis of charge. */
  private slopeAt(point: Point): number {
    const known = this.slopes.get(point);
    if (known !== undefined) return known;
    const charge = point[CHARGE_AXIS] as number;
    const low = Math.max(0, charge - SLOPE_OVER);
    const high = Math.min(TOP, charge + SLOPE_OVER);
    const slope = (this.standsAt(point, high) - this.standsAt(point, low)) / (high - low);
    this.slopes.set(point, slope);
    return slope;
  }

  /** By secants from where it was, or else between the ends of the axis. */
  private chargeFor(point: Point, volts: number, slope: number): number | undefined {
    const off = (charge: number): number => this.standsAt(point, charge) - volts;
    let charge = point[CHARGE_AXIS] as number;
    let here = off(charge);
    let rise = slope;
    for (let attempt = 0; attempt < SECANTS && Math.abs(here) >= MET_V; attempt++) {
      const next = charge - here / rise;
      if (!(next > 0 && next < TOP)) return this.chargeBetween(off);
      const there = off(next);
      rise = (there - here) / (next - charge);
      [charge, here] = [next, there];
    }
    return Math.abs(here) < MET_V ? charge : this.chargeBetween(off);
  }

  /** By regula falsi, the end that stays halved. @see Dowell & Jarratt 1971 (Illinois) */
  private chargeBetween(off: (charge: number) => number): number | undefined {
    let [low, high] = [0, TOP];
    let [below, above] = [off(low), off(high)];
    if (below > 0 || above < 0) return undefined;
    let side = 0;
    for (let attempt = 0; attempt < TRIES; attempt++) {
      const charge = high - (above * (high - low)) / (above - below);
      const here = off(charge);
      if (Math.abs(here) < MET_V) return charge;
      if (here > 0) {
        [high, above] = [charge, here];
        if (side === 1) below /= 2;
        side = 1;
      } else {
        [low, below] = [charge, here];
        if (side === -1) above /= 2;
        side = -1;
      }
    }
    return undefined;
  }
}

/** Where a monotone scale shows a value, by halving; undefined where it never does. */
function placeWhere(scale: (place: number) => number, value: number): number | undefined {
  const rises = scale(1) >= scale(0);
  const [least, most] = rises ? [scale(0), scale(1)] : [scale(1), scale(0)];
  if (value < least || value > most) return undefined;
  let [low, high] = [0, 1];
  for (let halving = 0; halving < HALVINGS; halving++) {
    const middle = (low + high) / 2;
    if (scale(middle) < value === rises) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** How fast a scale rises or falls at a place; 0 where it stands still. */
function slopeOf(scale: (place: number) => number, place: number): number {
  const low = Math.max(0, place - SCALE_OVER);
  const high = Math.min(1, place + SCALE_OVER);
  return Math.abs(scale(high) - scale(low)) / (high - low);
}

/** Back into the cube, as a ball off a wall. */
function reflected(value: number): number {
  const folded = Math.abs(value) % 2;
  return folded > 1 ? 2 - folded : folded;
}
