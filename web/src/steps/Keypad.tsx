import { Delete } from 'lucide-react';

const KEYS = ['7', '8', '9', '4', '5', '6', '1', '2', '3', '.', '0', 'back'] as const;

/** Digits for a gloved finger; it types into the field that was touched last. */
export function Keypad({ onPress }: { onPress: (key: string) => void }) {
  return (
    <div role="group" aria-label="Keypad" className="grid w-52 shrink-0 grid-cols-3 gap-1.5 self-start">
      {KEYS.map((key) => (
        <button
          key={key}
          type="button"
          tabIndex={-1}
          aria-label={key === 'back' ? 'Delete last' : key === '.' ? 'Point' : key}
          onPointerDown={(event) => event.preventDefault()}
          onClick={() => onPress(key)}
          className="reading flex min-h-13 items-center justify-center rounded-lg border border-line bg-paper text-xl font-semibold hover:border-cork"
        >
          {key === 'back' ? <Delete aria-hidden className="size-6" /> : key}
        </button>
      ))}
    </div>
  );
}
