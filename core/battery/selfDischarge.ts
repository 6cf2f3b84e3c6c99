/** What standing takes of a battery's charge, and what that is in volts (handbook 4). */
import type { Construction } from './construction.ts';
import { onSix } from './types.ts';

/** By the lead of its grids, where that is known: antimony moves over to the other plate and eats at its charge. */
export type StandingKind = 'pureLead' | 'gel' | 'agm' | 'calcium' | 'lowAntimony' | 'antimonial' | 'flooded';

export interface KindLoss {
  readonly name: string;
  /** Published, percent of charge a month at 25 °C, disconnected (handbook 4). */
  readonly from: number;
  readonly usual: number;
  readonly to: number;
  /** How far single batteries lie apart: nine tenths over one tenth of them. */
  readonly spread: number;
}

/** Single batteries of one kind lie so far apart: cleanliness, age, how they were made. */
const ALIKE = 2.5;

export const KIND_LOSS: Readonly<Record<StandingKind, KindLoss>> = {
  pureLead: { name: 'pure lead', from: 1, usual: 1.5, to: 2, spread: ALIKE },
  gel: { name: 'gel', from: 1.5, usual: 2, to: 2.5, spread: ALIKE },
  agm: { name: 'AGM', from: 2, usual: 2.5, to: 3, spread: ALIKE },
  calcium: { name: 'flooded, calcium', from: 2, usual: 2.5, to: 3, spread: ALIKE },
  lowAntimony: { name: 'flooded, low-antimony', from: 4, usual: 6, to: 8, spread: ALIKE },
  antimonial: { name: 'flooded, antimonial', from: 8, usual: 11, to: 15, spread: ALIKE },
  // Nobody said which: from calcium to an old antimonial one.
  flooded: { name: 'flooded', from: 2, usual: 5, to: 15, spread: 7.5 },
};

/** A month of the trade, days. */
export const MONTH_DAYS = 30.4;
const REFERENCE_C = 25;
/** Twice as fast per so many kelvin (handbook 4; Arrhenius near room temperature). */
const DOUBLES_K = 10;

/** How much faster a battery loses charge at a temperature than at 25 °C. */
export const speedAt = (tempC: number): number => 2 ** ((tempC - REFERENCE_C) / DOUBLES_K);

/** The temperature at which it loses charge so much faster than at 25 °C. */
export const warmthOf = (speed: number): number => REFERENCE_C + DOUBLES_K * Math.log2(speed);

/** Rested voltage of twelve volts per percent of charge near full; 10 to 12 mV. */
const V_PER_PERCENT = 0.012;

/** Charge lost by standing, percent. */
export function standingLossPercent(
  construction: Construction,
  days: number,
  tempC: number,
): { readonly usual: number; readonly most: number } {
  const { usual, to } = KIND_LOSS[construction];
  const months = (days / MONTH_DAYS) * speedAt(tempC);
  return { usual: usual * months, most: to * months };
}

/** What a loss of charge is in rested voltage near full, V. */
export function voltsOfPercent(percent: number, cells: number): number {
  return onSix(percent * V_PER_PERCENT, { cells });
}
