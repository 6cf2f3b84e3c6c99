/**
 * Limits no plan and no caller can lift. They are computed from the battery itself, here, and laid over
 * every command that leaves the engine.
 */
import { CONSTRUCTION } from '../battery/construction.ts';
import { onSix } from '../battery/types.ts';
import { ProfileError, type Purpose, type Subject } from './profile.ts';

export interface Ceilings {
  readonly amps: number;
  readonly volts: number;
  /** The most for charging at 25 °C, as the label prints it or the construction bears; it follows warmth, V. */
  readonly chargingV?: number;
  /** Charging pauses above, and goes on below, °C (handbook 2.3, step 11). */
  readonly pauseC: number;
  readonly resumeC: number;
  /** Where the current limit comes from. */
  readonly because: string;
}

/** On six cells, not compensated: where a purpose goes above or below what the cold may bring a charge to, V (handbook 3.4 and 7). */
const FLOODED_PULSE_V = 15.6;
const EQUALISE_V = 16.2;
const MAINTAIN_V = 13.8;

/** Never passed for this purpose, on six cells, V; undefined where the purpose is not allowed. */
function absoluteV({ construction }: Subject, purpose: Purpose): number | undefined {
  const { coldMostV, wakeV, absorptionToV, equalises, isValveRegulated } = CONSTRUCTION[construction];
  switch (purpose) {
    case 'wake':
      return wakeV;
    case 'equalise':
      return equalises ? EQUALISE_V : undefined;
    case 'maintain':
      return MAINTAIN_V;
    case 'pulse':
      // A spike is over before warmth counts: gel bubbles from it at once.
      if (construction === 'gel') return absorptionToV;
      return isValveRegulated ? coldMostV : FLOODED_PULSE_V;
    default:
      return coldMostV;
  }
}

/**
 * What a label prints is the voltage of a charge. Waking and equalising go above every charging voltage by their
 * nature, at a small current, and have absolute ceilings of their own (handbook 3.4).
 */
const ABOVE_CHARGING: readonly Purpose[] = ['wake', 'equalise'];

/**
 * The most at 25 °C, V: what the label prints; gel bears 14.4 V and never more there, whatever is printed (handbook 1:
 * bubbles above it stay in the gel for good).
 */
function chargingMostV({ construction, labelV, cells }: Subject): number | undefined {
  if (construction !== 'gel') return labelV;
  const mostV = onSix(CONSTRUCTION.gel.absorptionToV, { cells });
  return Math.min(labelV ?? mostV, mostV);
}

/** A small vehicle battery, and the most it takes without a label's word. Handbook 2.5. */
const SMALL_AH = 30;
const SMALL_MOST_A = 3;

function currentCeiling(subject: Subject, purpose: Purpose): readonly [amps: number, because: string] {
  const { capacityAh, labelA, quickA, construction } = subject;
  const { mostShare } = CONSTRUCTION[construction];
  const isFirst = purpose === 'first-charge';
  if (quickA !== undefined) {
    const most = Math.max(quickA, labelA ?? 0);
    return [most, `The label’s quick rate is ${most} A.`];
  }
  if (labelA !== undefined)
    return isFirst
      ? [labelA, `The label prints ${labelA} A.`]
      : [Math.max(labelA, capacityAh / 5), 'The label’s rate, or C/5.'];
  if (!isFirst)
    return [
      capacityAh * mostShare,
      mostShare < 0.5 ? 'Without a label rate gel never exceeds C/5.' : 'Nothing is charged above C/2.',
    ];
  if (capacityAh <= SMALL_AH && capacityAh / 5 > SMALL_MOST_A)
    return [SMALL_MOST_A, `Up to ${SMALL_AH} Ah a first charge never exceeds ${SMALL_MOST_A} A.`];
  return [capacityAh / 5, 'Without a label rate a first charge never exceeds C/5.'];
}

function assertPossible({ cells, capacityAh }: Subject): void {
  if (!Number.isInteger(cells) || cells < 1 || cells > 12)
    throw new ProfileError(`A battery has 1 to 12 cells in series; ${cells} is not possible.`);
  if (!(capacityAh > 0 && capacityAh <= 3000))
    throw new ProfileError(`Capacity must lie above 0 and up to 3000 Ah; ${capacityAh} Ah does not.`);
}

/** Why a sealed battery is never equalised. */
export const neverEqualised = ({ construction }: Pick<Subject, 'construction'>): string =>
  construction === 'gel'
    ? 'A gel battery is never equalised: the bubbles stay in the gel for good. Choose a slow charge.'
    : 'An AGM is never equalised: it cannot give the gas back, and dries out. Choose a long soak.';

/**
 * @throws ProfileError when the purpose is not allowed for this construction
 */
export function ceilingsFor(subject: Subject, purpose: Purpose): Ceilings {
  assertPossible(subject);
  const volts = absoluteV(subject, purpose);
  if (volts === undefined) throw new ProfileError(neverEqualised(subject));
  const [amps, because] = currentCeiling(subject, purpose);
  const chargingV = chargingMostV(subject);
  const isAboveCharging = ABOVE_CHARGING.includes(purpose);
  return {
    amps,
    volts: onSix(volts, subject),
    ...(chargingV === undefined || isAboveCharging ? {} : { chargingV }),
    pauseC: CONSTRUCTION[subject.construction].pauseC,
    resumeC: 40,
    because,
  };
}
