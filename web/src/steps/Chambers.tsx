import type { BatteryType } from '@cork-ember/core/battery/types.ts';
import { useEffect } from 'react';
import type { ChamberWords } from '@cork-ember/core/runsheet/definition/step.ts';

interface ChambersProps {
  readonly fine: readonly boolean[];
  readonly onChange: (fine: readonly boolean[]) => void;
  readonly words: ChamberWords;
  readonly positivePost: BatteryType['positivePost'];
}

/** What a chamber looks like from the front: empty or bubbling when fine, acid standing still when not. */
function Sketch({ isFine, isEmptying }: { isFine: boolean; isEmptying: boolean }) {
  return (
    <svg viewBox="0 0 60 90" className="h-24 w-full" aria-hidden>
      <rect
        x="3"
        y="3"
        width="54"
        height="84"
        rx="8"
        className="fill-paper stroke-cork-dark"
        strokeWidth="2.5"
      />
      {isEmptying ? (
        <rect
          x="7"
          y={isFine ? 80 : 52}
          width="46"
          height={isFine ? 3 : 31}
          rx="2"
          className="fill-verdigris/70"
        />
      ) : (
        <rect x="7" y="24" width="46" height="59" rx="4" className="fill-verdigris/45" />
      )}
      {!isEmptying &&
        isFine &&
        [16, 30, 43, 24, 37].map((x, i) => (
          <circle key={x} cx={x} cy={74 - i * 11} r={3 + (i % 2)} className="fill-card stroke-verdigris" />
        ))}
      {!isFine && <path d="M18 12l24 0" className="stroke-clay" strokeWidth="5" strokeLinecap="round" />}
    </svg>
  );
}

/** An open cell: acid at the UPPER line, or off it. */
function CellSketch({ isFine }: { isFine: boolean }) {
  return (
    <svg viewBox="0 0 60 90" className="h-24 w-full" aria-hidden>
      <rect
        x="3"
        y="3"
        width="54"
        height="84"
        rx="8"
        className="fill-paper stroke-cork-dark"
        strokeWidth="2.5"
      />
      {[14, 24, 34, 44].map((x) => (
        <rect key={x} x={x} y="46" width="4" height="37" className="fill-cork-dark/60" />
      ))}
      <rect
        x="6"
        y={isFine ? 26 : 52}
        width="48"
        height={isFine ? 58 : 32}
        rx="3"
        className="fill-verdigris/40"
      />
      <path d="M6 26h48" className="stroke-char" strokeWidth="1.5" strokeDasharray="5 3" />
      <path d="M6 40h48" className="stroke-soft" strokeWidth="1" strokeDasharray="2 3" />
      {!isFine && <path d="M18 12l24 0" className="stroke-clay" strokeWidth="5" strokeLinecap="round" />}
    </svg>
  );
}

/** One button per chamber, as they stand in front of you; digits toggle them too. */
export function Chambers({ fine, onChange, words, positivePost }: ChambersProps) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const index = Number(event.key) - 1;
      const isTyping = event.target instanceof HTMLElement && event.target.matches('input, textarea');
      if (isTyping || !Number.isInteger(index) || index < 0 || index >= fine.length) return;
      onChange(fine.map((isFine, i) => (i === index ? !isFine : isFine)));
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [fine, onChange]);
  const isEmptying = words.yes === 'empty';
  const sides = positivePost === 'right' ? ['− post', '+ post'] : ['+ post', '− post'];
  return (
    <div className="mt-4 px-5">
      <div className={`grid gap-2 ${fine.length === 3 ? 'max-w-96 grid-cols-3' : 'grid-cols-6'}`}>
        {fine.map((isFine, index) => (
          <button
            key={index}
            type="button"
            aria-pressed={!isFine}
            aria-label={`${words.name} ${index + 1}: ${isFine ? words.yes : words.no}`}
            onClick={() => onChange(fine.map((one, i) => (i === index ? !one : one)))}
            className={`rounded-lg border-2 p-1 pb-1.5 ${isFine ? 'border-transparent hover:border-line' : 'border-clay bg-clay-wash'}`}
          >
            {words.name === 'Cell' ? (
              <CellSketch isFine={isFine} />
            ) : (
              <Sketch isFine={isFine} isEmptying={isEmptying} />
            )}
            <span className="reading block text-lg font-semibold">{index + 1}</span>
            <span className={`block text-sm ${isFine ? 'text-soft' : 'font-semibold text-clay'}`}>
              {isFine ? words.yes : words.no}
            </span>
          </button>
        ))}
      </div>
      <p className={`mt-1 flex justify-between text-sm text-soft ${fine.length === 3 ? 'max-w-96' : ''}`}>
        <span>{sides[0]}</span>
        <span>{sides[1]}</span>
      </p>
    </div>
  );
}
