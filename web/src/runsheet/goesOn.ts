/** What a bay could go on to by itself once the current at hand is done. */
import type { DeviceProfile } from '@cork-ember/core/devices/profile.ts';
import { capacityMethodsWithin, type CapacityMethod } from '@cork-ember/core/grading/grade.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';

export interface Beyond {
  /** A battery of a recovery is proved; a new one only rests, and is read. */
  readonly isProved: boolean;
  /** A load of the bay measures its capacity. */
  readonly isDrawn: boolean;
  readonly methods: readonly CapacityMethod[];
}

/** @param load of the bay, where it has one */
export function beyond({ opened: { procedure, type } }: JobState, load: DeviceProfile | undefined): Beyond {
  const isProved = procedure.startsWith('recover');
  const methods = isProved ? capacityMethodsWithin(type, load?.ranges.amps?.most ?? 0) : [];
  return { isProved, isDrawn: methods.length > 0, methods };
}
