/** A battery off the bench, in a line: what it is and where, what it rests at, and how long its fuse is. */
import type { Shelved } from '@cork-ember/core/shelf/overview.ts';
import { isDueBy, saidOf, whereOf } from '@cork-ember/core/shelf/words.ts';
import type { TimeScale } from '../cord/scale.ts';
import { Button } from '../ui/Button.tsx';
import { TONES } from '../ui/tones.ts';
import { Fuse } from './Fuse.tsx';

const ROW = { line: 68, fuse: 44 } as const;

/** What it rests at, as far as anybody knows. */
function Volts({ one }: { one: Shelved }) {
  const { prediction, place } = one;
  if (place?.kind === 'maintainer') return <span className="reading text-soft">held full</span>;
  if (!prediction) return <span className="text-soft">not read yet</span>;
  return (
    <span className="reading text-lg font-semibold">
      <span className="sr-only">foretold to rest at </span>
      {prediction.volts.likely.toFixed(2)} V
    </span>
  );
}

interface ShelfRowProps {
  readonly one: Shelved;
  readonly scale: TimeScale;
  readonly now: number;
  readonly timeZone: string;
  /** Too narrow for its fuse beside its words. */
  readonly isNarrow: boolean;
  readonly onOpen: () => void;
}

export function ShelfRow({ one, scale, now, timeZone, isNarrow, onOpen }: ShelfRowProps) {
  const said = saidOf(one, now, timeZone);
  const isDue = isDueBy(one.due[0], now);
  const does = one.place ? (isDue ? 'See to it' : 'Open') : 'Put away';
  const fuse = (
    <Fuse
      one={one}
      scale={scale}
      now={now}
      height={ROW.fuse}
      isAlarm={said.tone === 'stop'}
      said={`${one.tag}: ${said.words}`}
    />
  );
  return (
    <li
      className="flex items-center gap-3 border-b border-line py-2 [contain-intrinsic-height:auto_72px] [content-visibility:auto]"
      style={{ minHeight: ROW.line }}
    >
      <div className={isNarrow ? 'min-w-0 flex-1' : 'w-72 shrink-0'}>
        <div className="flex items-baseline justify-between gap-2">
          <span className="font-bold">{one.tag}</span>
          <Volts one={one} />
        </div>
        <p className="truncate text-[13px] text-soft">{whereOf(one)}</p>
        {isNarrow && <p className={`text-sm font-semibold ${TONES[said.tone]}`}>{said.words}</p>}
      </div>
      {!isNarrow && (
        <div className="min-w-0 flex-1">
          <p className={`pl-5 text-sm leading-4 font-semibold ${TONES[said.tone]}`}>{said.words}</p>
          {fuse}
        </div>
      )}
      <Button
        tone={one.place && isDue ? 'go' : 'plain'}
        aria-label={`${does}: ${one.tag}`}
        onClick={onOpen}
        className="w-26 shrink-0 max-sm:w-22 max-sm:px-2"
      >
        {does}
      </Button>
    </li>
  );
}
