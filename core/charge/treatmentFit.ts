/** Which of the shop's chargers can give a recovery's charge, and why another does not. */
import { misfit, type Charger } from './chargers.ts';
import { heldPlan } from './held.ts';
import type { Subject } from './profile.ts';

export interface Wanted {
  /** The most that may be set, A. */
  readonly mostA: number;
  /** At the posts, V. */
  readonly ceilingV: number;
  readonly minutes: number;
  /** Only a pulse charger or a supply that can be programmed gives pulses. */
  readonly isPulsed: boolean;
}

/**
 * @param restingV what the charger would see: the battery, or the donor it stands on
 * @returns one sentence, or undefined when it suits
 */
export function treatmentMisfit(
  charger: Charger,
  { mostA, ceilingV, minutes, isPulsed }: Wanted,
  subject: Subject,
  restingV: number,
): string | undefined {
  if (isPulsed && charger.kind !== 'pulse' && charger.kind !== 'programmable')
    return `${charger.name}: cannot pulse.`;
  // A programme of its own is judged by what it may reach, not by its name.
  const { programmes: _own, ...plain } = charger;
  const reason = misfit(plain, heldPlan(mostA, ceilingV, minutes * 60, 'charge', false), subject, restingV);
  if (reason !== undefined) return reason.replace('this plan takes', 'this charge takes');
  const most = (charger.mostV * subject.cells) / 6;
  const isFixed = charger.kind === 'automatic' || charger.kind === 'taper';
  return isFixed && most > ceilingV + 0.05 * subject.cells
    ? `${charger.name}: goes to ${most.toFixed(1)} V by itself; ${ceilingV.toFixed(1)} V is the most here.`
    : undefined;
}
