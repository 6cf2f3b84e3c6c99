/** How it comes back, as a bar of grades and in figures. */
import { type Scored } from '@cork-ember/core/advice/compare.ts';
import { GRADES, type Mark } from '@cork-ember/core/advice/rows.ts';
import { percentText } from '@cork-ember/core/units/percent.ts';

const TONES: Record<Mark, string> = {
  A: 'bg-verdigris text-paper',
  B: 'bg-cork text-on-cork',
  C: 'bg-brass text-on-cork',
  R: 'bg-panel text-char',
};
/** Below this a share is too narrow for its letter. */
const WORTH_A_LETTER = 0.1;

export function Odds({ odds }: { odds: Scored['odds'] }) {
  const shown = GRADES.filter((mark) => odds[mark] > 0);
  const words = shown
    .map((mark) => `${mark} ${percentText(odds[mark])}`.replaceAll(' ', '\u00a0'))
    .join(', ');
  return (
    <span className="block">
      <span aria-hidden className="flex h-6 overflow-hidden rounded border border-line">
        {shown.map((mark) => (
          <span
            key={mark}
            className={`flex items-center justify-center text-sm font-bold ${TONES[mark]}`}
            style={{ width: `${odds[mark] * 100}%` }}
          >
            {odds[mark] >= WORTH_A_LETTER ? mark : ''}
          </span>
        ))}
      </span>
      <span className="text-sm text-soft">{words}</span>
    </span>
  );
}
