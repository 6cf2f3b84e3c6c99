/** What is in a battery: charge, capacity, cranking, resistance and missing water of a candidate, and of a belief. */
import { conductanceA } from '../observation/modelView.ts';
import { postsOhm } from '../charge/donor.ts';
import { leastCharge, waterLostG } from '../model/show.ts';
import type { CauseId } from '../candidate/causes.ts';
import type { Together } from './onTop.ts';
import { normalQuantile } from '../chance/distributions.ts';
import type { Shown } from '../observation/shown.ts';
import { quantile } from './weights.ts';
import { capacityShare } from '../candidate/capacity.ts';
import { batteryFrom, chargedFrom, type Perturb } from '../candidate/piece.ts';
import type { Setting, Traits } from '../candidate/traits.ts';

/** What one wants to know of a battery. */
export interface Figures {
  /** Charge of the weakest cell, 0–1. */
  readonly charge: number;
  /** Capacity once charged as far as it goes, share of the rating. */
  readonly capacity: number;
  /** Cranking once charged, share of the rating. */
  readonly cranking: number;
  /** Between the posts now, Ω. */
  readonly ohm: number;
  /** Water missing, all cells, g. */
  readonly waterG: number;
}

/** What is said of a battery: what it has in it, and for how many years it will serve in its duty. */
export const FIGURES = ['charge', 'capacity', 'cranking', 'ohm', 'waterG', 'lifeYears'] as const;
export type Figure = (typeof FIGURES)[number];

/** What a candidate's figures are, by the model. */
export function figuresOf(traits: Traits, setting: Setting, shown: Shown, perturb?: Perturb): Figures {
  const { cells } = shown;
  let waterG = 0;
  for (let g = 0; g < cells.groups; g++)
    waterG += (cells.counts[g] as number) * (cells.p.waterG[g] as number);
  const lostG = waterLostG(cells);
  // Water that was put back counts.
  const dryShare = Math.min(traits.dryShare, lostG / waterG);
  const charged = chargedFrom({ ...traits, dryShare }, setting, perturb);
  const soundA = soundTesterA(setting);
  return {
    charge: leastCharge(cells),
    capacity: capacityShare(cells, setting.rating),
    cranking: conductanceA(charged) / soundA,
    ohm: postsOhm(cells),
    waterG: lostG,
  };
}

const knownSound = new WeakMap<Setting['rating'], number>();

/** What a tester shows of a sound, charged battery of this rating, A. */
export function soundTesterA(setting: Setting): number {
  const known = knownSound.get(setting.rating);
  if (known !== undefined) return known;
  const sound: Traits = {
    cause: 'empty',
    charge: 1,
    hardShare: 0,
    film: 0,
    left: 1,
    capacityFactor: 1,
    crankingFactor: 1,
    acidFactor: 1,
    dryShare: 0,
    layering: 0,
    cell: 1,
    severity: 0,
    low: 0,
    lowHard: 0,
  };
  const amps = conductanceA(batteryFrom(sound, { ...setting, tempC: 25 }));
  knownSound.set(setting.rating, amps);
  return amps;
}

/** As the battery was found, or after charges the candidates were run through. */
export type Since = 'found' | 'charged';

/** What the model itself may be off by in a figure it forecasts, one standard deviation (docs/belief.md). */
const OFF_BY: Partial<Record<keyof Figures, Readonly<Record<Since, number>>>> = {
  charge: { found: 0.01, charged: 0.028 },
};

/**
 * A figure of a real battery where the model has a candidate's: as far off as the model may be.
 * @param since whether it was run through a charge, which the model may be off in as well
 * @param place where in the spread of what it may be off by, 0–1, both excluded
 */
export function asReal(name: keyof Figures, value: number, since: Since, place: number): number {
  const off = OFF_BY[name]?.[since];
  return off === undefined ? value : Math.min(1, Math.max(0, value + off * normalQuantile(place)));
}

/** 10th, 50th and 90th percentile. */
export interface Interval {
  readonly low: number;
  readonly middle: number;
  readonly high: number;
}

/** Of weighted values: where eight of ten lie, and the middle. */
export function intervalOf(values: readonly number[], weights: Float64Array): Interval {
  const [low = 0, middle = 0, high = 0] = [0.1, 0.5, 0.9].map((share) => quantile(values, weights, share));
  return { low, middle, high };
}

export interface Summary {
  readonly causes: Readonly<Record<CauseId, number>>;
  /** The most likely first. */
  readonly ranked: readonly { readonly cause: CauseId; readonly probability: number }[];
  /** What each cause has beside it. */
  readonly together: Together;
  readonly figures: Readonly<Record<Figure, Interval>>;
}
