/** One of several that can be taken away again: a name, a day, a picture. */
import { X } from 'lucide-react';

interface RemovableProps {
  readonly text: string;
  /** What taking it away means: "Open on 2026-12-25 after all". */
  readonly removeLabel: string;
  readonly onRemove: () => void;
  /** Figures: in the type of readings. */
  readonly isReading?: boolean;
}

export function Removable({ text, removeLabel, onRemove, isReading = false }: RemovableProps) {
  return (
    <li className="flex max-w-full items-center rounded-lg border-2 border-cork bg-card pl-4">
      <span className={`min-w-0 truncate ${isReading ? 'reading' : ''}`}>{text}</span>
      <button
        type="button"
        aria-label={removeLabel}
        onClick={onRemove}
        className="flex size-12 shrink-0 items-center justify-center text-soft hover:text-char"
      >
        <X aria-hidden className="size-5" />
      </button>
    </li>
  );
}
