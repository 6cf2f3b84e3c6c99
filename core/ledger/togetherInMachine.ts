/**
 * Batteries that work together in one machine: what each came to on the bench, and which of them drags the others down. After
 * one fails the whole set is replaced; the bad one stands at 10.5 V after charging (handbook 4).
 */
import { onSix } from '../battery/types.ts';
import type { Place } from '../shelf/places.ts';
import type { JobState } from '../runsheet/state/jobState.ts';
import { numberOf } from '../units/values.ts';
import { gainsOf, type Gain } from '../runsheet/outcome/gain.ts';
import type { Apart } from './sets.ts';

/** What is known of one. What was not measured is not there. */
export interface InMachine {
  readonly tag: string;
  readonly cells: number;
  readonly place?: Place;
  /** Where its last run sheet is, and how it ended; none while it is under way. */
  readonly job?: string;
  readonly outcome?: string;
  /** At rest after a charge on the bench, V. */
  readonly chargedV?: number;
  readonly capacityShare?: number;
  readonly milliohm?: number;
}

/** It works in no machine any more. */
export const isGone = ({ place }: InMachine): boolean =>
  place?.kind === 'recycled' || place?.kind === 'supplier';

/** Its run sheet is under way. */
export const isOnBench = ({ job, outcome }: InMachine): boolean => job !== undefined && outcome === undefined;

export interface Drags {
  readonly tag: string;
  readonly why: string;
}

/** At rest after a charge: the plateau of a dead cell, on six cells (handbook 3.1). */
const DEAD_V = 10.9;
/** So far below the others one is weak, on six cells, V: a tenth of a charge, and more than a meter leaves open. */
const WEAK_V = 0.15;

/** What a run sheet measured of it, charged. */
export function chargedFigures(state: JobState): Pick<InMachine, 'chargedV' | 'capacityShare' | 'milliohm'> {
  const charge = state.steps.find(({ charge: on, doneAt }) => on !== undefined && doneAt !== undefined);
  const rested =
    charge &&
    state.steps.findLast(
      ({ values, doneAt }) =>
        doneAt !== undefined &&
        charge.doneAt !== undefined &&
        doneAt >= charge.doneAt &&
        numberOf(values?.['ocvV']) !== undefined,
    );
  const chargedV = numberOf(rested?.values?.['ocvV']);
  const gains = gainsOf(state);
  const after = (what: Gain['what']): number | undefined => gains.find((gain) => gain.what === what)?.after;
  const [capacity, milliohm] = [after('Capacity'), after('Resistance')];
  return {
    ...(chargedV === undefined ? {} : { chargedV }),
    ...(capacity === undefined ? {} : { capacityShare: capacity / 100 }),
    ...(milliohm === undefined ? {} : { milliohm }),
  };
}

function medianOf(values: readonly number[]): number | undefined {
  const sorted = values.toSorted((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1
    ? sorted[middle]
    : sorted.length === 0
      ? undefined
      : ((sorted[middle - 1] ?? 0) + (sorted[middle] ?? 0)) / 2;
}

function whyOf(one: InMachine, all: readonly InMachine[], limits: Apart): string | undefined {
  const others = all.filter((other) => other !== one);
  const { chargedV, capacityShare, milliohm, outcome } = one;
  if (chargedV !== undefined && chargedV < onSix(DEAD_V, one))
    return `${chargedV.toFixed(2)} V after its charge: the plateau of a dead cell`;
  if (outcome === 'retired') return 'retired on the bench';
  if (isGone(one)) return 'beyond charging when it came in';
  const volts = medianOf(others.flatMap((other) => other.chargedV ?? []));
  if (chargedV !== undefined && volts !== undefined && chargedV < volts - onSix(WEAK_V, one))
    return `${chargedV.toFixed(2)} V after its charge, the others ${volts.toFixed(2)} V`;
  const share = medianOf(others.flatMap((other) => other.capacityShare ?? []));
  if (
    capacityShare !== undefined &&
    share !== undefined &&
    capacityShare < share * (1 - limits.capacityShare)
  )
    return `${(capacityShare * 100).toFixed(0)} % of its rating, the others ${(share * 100).toFixed(0)} %`;
  const ohm = medianOf(others.flatMap((other) => other.milliohm ?? []));
  if (milliohm !== undefined && ohm !== undefined && milliohm > ohm * (1 + limits.resistanceShare))
    return `${milliohm.toFixed(1)} mΩ, the others ${ohm.toFixed(1)} mΩ`;
  return undefined;
}

/**
 * Which of them drag the others down, and by what; empty while nothing was measured that says so.
 * @param limits how alike the batteries of a set are, by the house's rule
 */
export function dragging(all: readonly InMachine[], limits: Apart): readonly Drags[] {
  return all.flatMap((one) => {
    const why = whyOf(one, all, limits);
    return why === undefined ? [] : [{ tag: one.tag, why }];
  });
}
