/** Pictures of the label, kept with the battery's run sheet. */
import { Camera } from 'lucide-react';
import { useRef } from 'react';
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
