import { Delete } from 'lucide-react';

import { shopRegion } from '../region/shopRegion.ts';

const KEYS = ['7', '8', '9', '4', '5', '6', '1', '2', '3', 'mark', '0', 'back'] as const;

const MARKS = { '.': 'Point', ',': 'Comma' } as const;

/** Digits for a gloved finger; it types into the field that was touched last. */
export function Keypad({ onPress }: { onPress: (key: string) => void }) {
  const { decimalMark } = shopRegion();
  return (
    <div role="group" aria-label="Keypad" className="grid w-52 shrink-0 grid-cols-3 gap-1.5 self-start">
      {KEYS.map((key) => (
        <button
          key={key}
          type="button"
          tabIndex={-1}
          aria-label={key === 'back' ? 'Delete last' : key === 'mark' ? MARKS[decimalMark] : key}
          onPointerDown={(event) => event.preventDefault()}
          onClick={() => onPress(key === 'mark' ? decimalMark : key)}
          className="reading flex min-h-13 items-center justify-center rounded-lg border border-line bg-paper text-xl font-semibold hover:border-cork"
        >
          {key === 'back' ? <Delete aria-hidden className="size-6" /> : key === 'mark' ? decimalMark : key}
        </button>
      ))}
    </div>
  );
}
