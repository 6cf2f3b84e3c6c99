/** Digits for a gloved finger: they go to the field that was touched last. */
import { ChevronDown, CornerDownLeft, Delete } from 'lucide-react';
import type { ReactNode } from 'react';
import { shopRegion } from '../region/shopRegion.ts';
import { pressKey, putPadAway, type PadKey } from './activeField.ts';

const MARKS = { '.': 'Point', ',': 'Comma' } as const;

interface Key {
  /** Where it stands in three rows of six; on a phone keys stand in four rows of four, as they are listed. */
  readonly place: string;
  readonly name: string;
  readonly face: ReactNode;
  readonly key: PadKey;
  readonly isOff?: boolean;
}

const digit = (text: string, place: string): Key => ({
  place,
  name: text,
  face: text,
  key: { kind: 'write', text },
});

const BACK: Key = {
  place: 'sm:order-5',
  name: 'Delete last',
  face: <Delete aria-hidden className="size-6" />,
  key: { kind: 'back' },
};
const SIGN: Key = { place: 'sm:order-11', name: 'Plus or minus', face: '±', key: { kind: 'sign' } };
const CLEAR: Key = {
  place: 'sm:order-6',
  name: 'Clear',
  face: <span className="font-sans text-base">Clear</span>,
  key: { kind: 'put', text: '' },
};
const NEXT: Key = {
  place: 'sm:order-16 sm:col-span-3',
  name: 'Next field',
  face: <CornerDownLeft aria-hidden className="size-6" />,
  key: { kind: 'next' },
};

/** What was read of this last; a tap puts it in again. */
const lastKey = (last: string | undefined): Key => ({
  place: 'sm:order-12',
  name: last === undefined ? 'last, none' : `last ${last}`,
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
    place: 'sm:order-10',
    name: MARKS[decimalMark],
    face: decimalMark,
    key: { kind: 'write', text: decimalMark },
  };
  return [
    digit('7', 'sm:order-1'),
    digit('8', 'sm:order-2'),
    digit('9', 'sm:order-3'),
    BACK,
    digit('4', 'sm:order-7'),
    digit('5', 'sm:order-8'),
    digit('6', 'sm:order-9'),
    CLEAR,
    digit('1', 'sm:order-13'),
    digit('2', 'sm:order-14'),
    digit('3', 'sm:order-15'),
    SIGN,
    mark,
    digit('0', 'sm:order-4'),
    lastKey(last),
    NEXT,
  ];
}

function Keys({ last }: { last: string | undefined }) {
  return (
    <div
      role="group"
      aria-label="Keypad"
      className="grid w-64 shrink-0 grid-cols-4 gap-1.5 self-start sm:w-108 sm:grid-cols-6"
    >
      {keysFor(last).map(({ place, name, face, key, isOff = false }) => (
        <button
          key={name.startsWith('last') ? 'last' : name}
          type="button"
          tabIndex={-1}
          aria-label={name}
          disabled={isOff}
          // The field keeps the keyboard, and its caret.
          onPointerDown={(event) => event.preventDefault()}
          onClick={() => pressKey(key)}
          className={`reading flex min-h-13 items-center justify-center rounded-lg border border-line bg-paper text-xl font-semibold hover:border-cork disabled:text-soft/60 ${place}`}
        >
          {face}
        </button>
      ))}
    </div>
  );
}

/**
 * The pad at the foot of the page, in place of a tablet's own keyboard: it takes room and hides nothing. It says what it fills.
 */
export function Keypad({ field }: { field: HTMLInputElement }) {
  const { label = '', unit = '', last } = field.dataset;
  return (
    <section
      aria-label="Numbers"
      className="flex shrink-0 flex-wrap items-start justify-center gap-x-6 gap-y-1 border-t-2 border-cork bg-panel p-2"
    >
      <p className="flex min-w-40 flex-1 items-center gap-2 self-stretch sm:max-w-56 sm:flex-col sm:items-start sm:pt-2">
        <span className="min-w-0 flex-1 font-medium sm:flex-none">
          {label}
          {unit === '' ? '' : `, ${unit}`}
        </span>
        <button
          type="button"
          tabIndex={-1}
          onPointerDown={(event) => event.preventDefault()}
          onClick={putPadAway}
          className="flex min-h-12 items-center gap-2 rounded-lg px-3 text-soft sm:mt-auto"
        >
          <ChevronDown aria-hidden className="size-5" /> Put the pad away
        </button>
      </p>
      <Keys last={last} />
    </section>
  );
}
