/** Pictures of the label, kept with the battery's run sheet. */
import { Camera } from 'lucide-react';
import { FileButton } from '../ui/FileButton.tsx';
import { Removable } from '../ui/Removable.tsx';

interface LabelPhotosProps {
  readonly photos: readonly File[];
  readonly onPhotos: (photos: readonly File[]) => void;
}

export function LabelPhotos({ photos, onPhotos }: LabelPhotosProps) {
  return (
    <div>
      <FileButton
        name="Photos of the label"
        accept="image/jpeg,image/png,image/webp"
        isSeveral
        onFiles={(files) => onPhotos([...photos, ...files])}
      >
        <Camera aria-hidden className="size-5" /> Photos of the label
      </FileButton>
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
