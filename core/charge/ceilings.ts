/**
 * Limits no plan and no caller can lift. They are computed from the battery itself, here, and laid over
 * every command that leaves the engine.
 */
import { ProfileError, type Purpose, type Subject } from './profile.ts';

export interface Ceilings {
  readonly amps: number;
  readonly volts: number;
  /** What the label prints for charging, at 25 °C; it follows warmth as the stage does, V. */
  readonly labelV?: number;
  /** Charging pauses above, and goes on below, °C (handbook 2.3, step 11). */
  readonly pauseC: number;
  readonly resumeC: number;
  /** Where the current limit comes from. */
  readonly because: string;
}

/** Volts per cell, not compensated. Handbook 3.4 and 7: 15 V AGM, 16 V flooded wake, 16.2 V equalise. */
const CELL_VOLTS: Record<Subject['construction'], Partial<Record<Purpose, number>>> = {
  agm: {
    'first-charge': 2.5,
    charge: 2.5,
    wake: 2.5,
    soak: 2.5,
    pulse: 2.5,
    maintain: 2.3,
  },
  flooded: {
    'first-charge': 2.5,
    charge: 2.5,
    wake: 16 / 6,
    soak: 2.5,
    pulse: 2.6,
    equalise: 2.7,
    maintain: 2.3,
  },
};

/**
 * What a label prints is the voltage of a charge. Waking and equalising go above every charging voltage by their
 * nature, at a small current, and have absolute ceilings of their own (handbook 3.4).
 */
const ABOVE_CHARGING: readonly Purpose[] = ['wake', 'equalise'];

/** Valve-regulated batteries dry out, and run away, sooner (handbook 2.3, step 11). */
export const PAUSE_C: Record<Subject['construction'], number> = { agm: 45, flooded: 50 };

/** No charge follows the cold above this, V a cell (handbook 7: 15 V on six cells). */
export const ABSOLUTE_CELL_V = 2.5;

/** A small vehicle battery, and the most it takes without a label's word. Handbook 2.5. */
const SMALL_AH = 30;
const SMALL_MOST_A = 3;

function currentCeiling(subject: Subject, purpose: Purpose): readonly [amps: number, because: string] {
  const { capacityAh, labelA, quickA } = subject;
  const isFirst = purpose === 'first-charge';
  if (quickA !== undefined) {
    const most = Math.max(quickA, labelA ?? 0);
    return [most, `The label’s quick rate is ${most} A.`];
  }
  if (labelA !== undefined)
    return isFirst
      ? [labelA, `The label prints ${labelA} A.`]
      : [Math.max(labelA, capacityAh / 5), 'The label’s rate, or C/5.'];
  if (!isFirst) return [capacityAh / 2, 'Nothing is charged above C/2.'];
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

/**
 * @throws ProfileError when the purpose is not allowed for this construction
 */
export function ceilingsFor(subject: Subject, purpose: Purpose): Ceilings {
  assertPossible(subject);
  const perCell = CELL_VOLTS[subject.construction][purpose];
  if (perCell === undefined)
    throw new ProfileError(
      'An AGM battery is never equalised: it cannot give the gas back, and dries out. Choose a long soak.',
    );
  const [amps, because] = currentCeiling(subject, purpose);
  const { labelV } = subject;
  const isAboveCharging = ABOVE_CHARGING.includes(purpose);
  return {
    amps,
    volts: perCell * subject.cells,
    ...(labelV === undefined || isAboveCharging ? {} : { labelV }),
    pauseC: PAUSE_C[subject.construction],
    resumeC: 40,
    because,
  };
}
