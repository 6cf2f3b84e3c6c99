/** Pictures of the label, kept with the battery's run sheet. */
import { STEP } from '@cork-ember/core/runsheet/definition/stepIds.ts';
import { keyOf } from '@cork-ember/core/runsheet/state/jobState.ts';
import { Camera } from 'lucide-react';
import { useRef } from 'react';
import { v4 as uuid } from 'uuid';
import type { JobAnswer } from '@cork-ember/core/contract/answers.ts';
import { ask, askWithFile } from '../api/client.ts';
import { Button } from '../ui/Button.tsx';
import { Removable } from '../ui/Removable.tsx';

interface LabelPhotosProps {
  readonly photos: readonly File[];
  readonly onPhotos: (photos: readonly File[]) => void;
}

export function LabelPhotos({ photos, onPhotos }: LabelPhotosProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <div>
      <input
        ref={input}
        type="file"
        accept="image/jpeg,image/png,image/webp"
        multiple
        aria-label="Photos of the label"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          onPhotos([...photos, ...(event.target.files ?? [])]);
          event.target.value = '';
        }}
      />
      <Button onClick={() => input.current?.click()}>
        <Camera aria-hidden className="size-5" /> Photos of the label
      </Button>
      {photos.length > 0 && (
        <ul aria-label="Photos to be kept" className="mt-2 flex flex-wrap gap-2">
          {photos.map((photo, index) => (
            <Removable
              key={`${photo.name} ${index}`}
              text={photo.name}
              removeLabel={`Leave ${photo.name} out`}
              onRemove={() => onPhotos(photos.filter((_, i) => i !== index))}
            />
          ))}
        </ul>
      )}
    </div>
  );
}

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
