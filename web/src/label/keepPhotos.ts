/** Pictures of the label go to the record of the battery that was taken in. */
import { STEP } from '@cork-ember/core/runsheet/definition/stepIds.ts';
import { keyOf } from '@cork-ember/core/runsheet/state/jobState.ts';
import { v4 as uuid } from 'uuid';
import type { JobAnswer } from '@cork-ember/core/contract/answers.ts';
import { ask, askWithFile } from '../api/client.ts';

/**
 * Keeps pictures of the label with a job that has just been opened, in the order they were taken.
 * @throws Error where one is refused; those before it are kept
 */
export async function keepPhotos(
  { id, events }: JobAnswer,
  photos: readonly File[],
  by: string,
): Promise<void> {
  let seq = events.length;
  for (const file of photos) {
    const { photo } = await askWithFile<{ photo: string }>(`/api/jobs/${id}/photos?key=${uuid()}`, file);
    await ask(`/api/jobs/${id}/events`, {
      expectedSeq: seq,
      requestKey: uuid(),
      by,
      entry: { kind: 'photographed', payload: { photo, step: keyOf(STEP.identify, 1), caption: 'Label' } },
    });
    seq += 1;
  }
}
