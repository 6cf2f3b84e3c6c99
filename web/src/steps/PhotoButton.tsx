/** A picture of what is on the bench, from a file or the camera, kept with the job. */
import { Camera } from 'lucide-react';
import { useRef, useState } from 'react';
import type { StepActions } from './StepCard.tsx';
import { v4 as uuid } from 'uuid';

interface PhotoButtonProps {
  readonly stepKey: string;
  readonly title: string;
  readonly actions: StepActions;
}

export function PhotoButton({ stepKey, title, actions }: PhotoButtonProps) {
  const input = useRef<HTMLInputElement>(null);
  const [isSending, setSending] = useState(false);
  const send = async (file: File): Promise<void> => {
    setSending(true);
    try {
      const photo = uuid();
      const keyed = { key: photo, picture: file };
      await actions.record(
        { kind: 'photographed', payload: { photo, step: stepKey, caption: title } },
        keyed,
      );
    } finally {
      setSending(false);
      if (input.current) input.current.value = '';
    }
  };
  return (
    <>
      <input
        ref={input}
        type="file"
        accept="image/*"
        capture="environment"
        aria-label="Photo of this step"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void send(file);
        }}
      />
      <button
        type="button"
        disabled={isSending}
        onClick={() => input.current?.click()}
        className="inline-flex min-h-12 items-center gap-2 rounded-lg px-3 text-soft hover:bg-paper hover:text-char"
      >
        <Camera aria-hidden className="size-5" /> {isSending ? 'Sending …' : 'Add a photo'}
      </button>
    </>
  );
}
