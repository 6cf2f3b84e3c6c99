/** The stages that more than one plan is put together from. Handbook 3.5, 4 and 7. */
import { CONSTRUCTION } from '../battery/construction.ts';
import { onSix } from '../battery/types.ts';
import type { PulseTrain, Stage, Subject } from './profile.ts';

export const HOUR = 3600;

/** Absorption voltage at 25 °C: the label's, else the construction's own. Handbook 7. */
export function absorptionV(subject: Subject): number {
  return subject.labelV ?? onSix(CONSTRUCTION[subject.construction].absorptionV, subject);
}

/** A tail that never proves full ends after this: the rest is looked into, not charged on. */
const LONGEST_TAIL_S = 16 * HOUR;

/** Bulk to the taper's end, then until it is proven full: the common tail of a full charge. */
export function bulkAndProof(
  subject: Subject,
  amps: number,
  volts: number,
  limitS: number,
  tailS = LONGEST_TAIL_S,
): Stage[] {
  const { capacityAh } = subject;
  return [
    {
      id: 'bulk',
      name: 'Bulk and taper',
      amps,
      volts,
      isCompensated: true,
      exits: [
        { on: 'current-below', amps: capacityAh / 50, next: 'proof' },
        { on: 'time', seconds: limitS, next: 'stop' },
      ],
    },
    {
      id: 'proof',
      name: 'Until proven full',
      amps,
      volts,
      isCompensated: true,
      exits: [
        { on: 'full', forS: 2 * HOUR, next: 'full' },
        { on: 'time', seconds: tailS, next: 'stop' },
      ],
    },
  ];
}

/** Held full at its float voltage, warmth taken off. */
export const float = (subject: Subject, amps: number, seconds: number): Stage => ({
  id: 'float',
  name: 'Float',
  amps,
  volts: onSix(CONSTRUCTION[subject.construction].floatV, subject),
  isCompensated: true,
  isFloat: true,
  exits: [{ on: 'time', seconds, next: 'full' }],
});

/** A spike of three times, a settle of one, then off: averages C/20 over four seconds. */
export function pulseTrain({ capacityAh }: Subject): PulseTrain {
  const base = capacityAh / 20;
  return { spikeA: base * 2.4, spikeS: 1, settleA: base * 0.8, settleS: 2, offS: 1 };
}
