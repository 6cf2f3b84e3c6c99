/** Digits for a gloved finger: they go to the field that was touched last. */
import { ChevronDown, CornerDownLeft, Delete } from 'lucide-react';
import type { ReactNode } from 'react';
import { shopRegion } from '../region/shopRegion.ts';
import { pressKey, useActiveField, type PadKey } from './activeField.ts';

const MARKS = { '.': 'Point', ',': 'Comma' } as const;

interface Key {
  readonly name: string;
  readonly face: ReactNode;
  readonly key: PadKey;
  readonly isOff?: boolean;
}

const digit = (text: string): Key => ({ name: text, face: text, key: { kind: 'write', text } });

const BACK: Key = {
  name: 'Delete last',
  face: <Delete aria-hidden className="size-6" />,
  key: { kind: 'back' },
};
const SIGN: Key = { name: 'Plus or minus', face: '±', key: { kind: 'sign' } };
const CLEAR: Key = {
  name: 'Clear',
  face: <span className="font-sans text-base">Clear</span>,
  key: { kind: 'put', text: '' },
};
const NEXT: Key = {
  name: 'Next field',
  face: <CornerDownLeft aria-hidden className="size-6" />,
  key: { kind: 'next' },
};

/** What was read of this last; a tap puts it in again. */
const lastKey = (last: string | undefined): Key => ({
  name: last === undefined ? 'Last value, none' : `Last value, ${last}`,
  face: (
    <span className="flex flex-col items-center leading-tight">
      <span className="font-sans text-xs font-normal">last</span>
      <span className="text-base">{last ?? '—'}</span>
    </span>
  ),
  key: { kind: 'put', text: last ?? '' },
  isOff: last === undefined,
});

function keysFor(last: string | undefined): readonly Key[] {
  const { decimalMark } = shopRegion();
  const mark: Key = {
    name: MARKS[decimalMark],
    face: decimalMark,
    key: { kind: 'write', text: decimalMark },
  };
  return [
    ...['7', '8', '9'].map(digit),
    BACK,
    ...['4', '5', '6'].map(digit),
    CLEAR,
    ...['1', '2', '3'].map(digit),
    SIGN,
    mark,
    digit('0'),
    lastKey(last),
    NEXT,
  ];
}

export function Keypad() {
  const field = useActiveField();
  return (
    <div role="group" aria-label="Keypad" className="grid w-60 shrink-0 grid-cols-4 gap-1.5 self-start">
      {keysFor(field?.dataset['last']).map(({ name, face, key, isOff = false }) => (
        <button
          key={name.startsWith('Last') ? 'last' : name}
          type="button"
          tabIndex={-1}
          aria-label={name}
          disabled={isOff}
          // The field keeps the keyboard, and its caret.
          onPointerDown={(event) => event.preventDefault()}
          onClick={() => pressKey(key)}
          className="reading flex min-h-13 items-center justify-center rounded-lg border border-line bg-paper text-xl font-semibold hover:border-cork disabled:text-soft/60"
        >
          {face}
        </button>
      ))}
    </div>
  );
}

/** On a tablet the pad stands at the foot of the page in place of the tablet's own keyboard, and takes its room, not its view. */
export function DockedKeypad({ onClose }: { onClose: () => void }) {
  const field = useActiveField();
  const { label = '', unit = '' } = field?.dataset ?? {};
  return (
    <section
      aria-label="Numbers"
      className="flex shrink-0 flex-wrap items-start justify-center gap-x-6 gap-y-1 border-t-2 border-cork bg-panel p-2"
    >
      <p className="flex min-w-40 flex-1 items-center gap-2 self-stretch sm:max-w-64 sm:flex-col sm:items-start">
        <span className="min-w-0 flex-1 font-medium sm:flex-none">
          {label}
          {unit === '' ? '' : `, ${unit}`}
        </span>
        <button
          type="button"
          tabIndex={-1}
          onPointerDown={(event) => event.preventDefault()}
          onClick={onClose}
          className="flex min-h-12 items-center gap-2 rounded-lg px-3 text-soft sm:mt-auto"
        >
          <ChevronDown aria-hidden className="size-5" /> Put the pad away
        </button>
      </p>
      <Keypad />
    </section>
  );
}
