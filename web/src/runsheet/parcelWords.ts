/** What an entry on its way says, in the words its log will have. */
import type { JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import { describeEvent } from '@cork-ember/core/runsheet/log/describe.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import type { JobParcel } from '../store/parcel.ts';

/** @param state of its job, where that is known */
export function parcelWords(parcel: JobParcel, state: JobState | undefined): string {
  const { job, by, entry, expectedSeq, enteredAt: at, requestKey: key } = parcel;
  try {
    if (state) return describeEvent({ job, by, at, key, seq: expectedSeq + 1, ...entry } as JobEvent, state);
  } catch {
    // Of a step this job no longer has: its kind must do.
  }
  return entry.kind;
}
