/** A battery from above: its cells in order from the positive post, that post on the side where the type has it. */
import type { ReactNode } from 'react';
import type { BatteryType } from '@cork-ember/core/battery/types.ts';

interface BatteryTopProps {
  readonly type: Pick<BatteryType, 'cells' | 'positivePost'>;
  /** What stands in a cell, from 1. */
  readonly cell: (number: number) => ReactNode;
  /** What stands in a cell is too wide for a phone: there its cells stand under each other. */
  readonly stacks?: boolean;
}

function Post({ sign }: { sign: '+' | '−' }) {
  return (
    <span
      aria-hidden
      className={`flex size-9 items-center justify-center rounded-full border-4 text-xl font-bold ${sign === '+' ? 'border-ember text-ember-text' : 'border-burnt text-char'}`}
    >
      {sign}
    </span>
  );
}

export function BatteryTop({ type: { cells, positivePost }, cell, stacks = false }: BatteryTopProps) {
  const isLeft = positivePost === 'left';
  return (
    <div className="rounded-2xl border-4 border-burnt bg-panel p-2">
      <div className={`mb-2 flex justify-between px-2 ${isLeft ? '' : 'flex-row-reverse'}`}>
        <Post sign="+" />
        <Post sign="−" />
      </div>
      <ol
        className={`flex gap-1.5 ${stacks ? `flex-col ${isLeft ? 'sm:flex-row' : 'sm:flex-row-reverse'}` : isLeft ? '' : 'flex-row-reverse'}`}
      >
        {Array.from({ length: cells }, (_, index) => index + 1).map((number) => (
          <li
            key={number}
            className={`min-w-0 flex-1 rounded-lg border-2 border-line bg-card p-1.5 ${stacks ? 'flex items-center gap-2 sm:block' : ''}`}
          >
            <span
              aria-hidden
              className={`block text-center text-sm font-bold text-soft ${stacks ? 'w-5 sm:w-auto' : ''}`}
            >
              {number}
            </span>
            {cell(number)}
          </li>
        ))}
      </ol>
    </div>
  );
}
