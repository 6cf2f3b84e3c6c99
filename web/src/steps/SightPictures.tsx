/** What to look for before a battery is touched, each drawn: a case with one thing wrong with it. */
import type { ReactNode } from 'react';
import type { Denial } from '@cork-ember/core/runsheet/definition/step.ts';

const LINE = { fill: 'none', stroke: 'currentColor', strokeWidth: 2.5, strokeLinecap: 'round' } as const;
const WRONG = { ...LINE, stroke: 'var(--ember)' } as const;

/** Case and two posts; what is wrong is drawn over it. */
function Case({ children, body = 'M8 20 h56 v30 h-56 z' }: { children?: ReactNode; body?: string }) {
  return (
    <svg viewBox="0 0 72 56" aria-hidden className="h-16 w-full">
      <path d={body} {...LINE} />
      <path d="M16 20 v-6 h8 v6 M48 20 v-6 h8 v6" {...LINE} />
      {children}
    </svg>
  );
}

const PICTURES: Readonly<Record<string, ReactNode>> = {
  cracked: (
    <Case body="M8 20 h56 q6 15 0 30 h-56 q-6 -15 0 -30 z">
      <path d="M36 20 l-5 9 l8 5 l-6 8 l4 8" {...WRONG} />
    </Case>
  ),
  'post-melted': (
    <Case>
      <path d="M14 20 q-2 -6 4 -7 q3 -5 7 0 q6 0 3 7" {...WRONG} />
      <path d="M28 20 q1 5 -1 8" {...WRONG} />
    </Case>
  ),
  leaking: (
    <Case>
      <path d="M64 36 q5 3 4 8 M60 50 q4 2 8 0 M20 50 q6 4 16 1" {...WRONG} />
      <path d="M67 47 v2" {...WRONG} />
    </Case>
  ),
  burnt: (
    <Case>
      <path d="M22 11 q-4 -4 0 -7 M36 15 q-5 -5 0 -9 q4 -3 1 -6 M50 11 q-4 -4 0 -7" {...WRONG} />
      <path d="M30 32 h12 M28 38 h16 M31 44 h10" {...WRONG} />
    </Case>
  ),
  rattles: (
    <Case>
      <path d="M20 46 l6 -14 M34 46 v-15 M44 46 l10 -9" {...WRONG} />
      <path d="M2 28 q-2 6 0 12 M70 28 q2 6 0 12" {...WRONG} />
    </Case>
  ),
  brittle: (
    <Case>
      <path d="M10 28 l8 3 l5 -5 l8 6 l7 -5 l8 5 l9 -6 M14 44 l8 -6 l7 6 l9 -7 l8 6 l10 -5" {...WRONG} />
    </Case>
  ),
  frozen: (
    <Case>
      <path d="M36 24 v22 M26 29 l20 12 M46 29 l-20 12" {...WRONG} />
      <path d="M33 27 l3 3 l3 -3 M33 43 l3 -3 l3 3" {...WRONG} />
    </Case>
  ),
  'rotten-egg': (
    <Case>
      <path d="M36 48 q-9 0 -9 -9 q0 -10 9 -15 q9 5 9 15 q0 9 -9 9 z" {...WRONG} />
      <path d="M29 10 q4 -4 0 -8 M43 10 q4 -4 0 -8" {...WRONG} />
    </Case>
  ),
};

/** Nothing where the step's ways to say no are not things one sees. */
export function SightPictures({ denials }: { denials: readonly Denial[] }) {
  const drawn = denials.filter(({ id }) => id in PICTURES);
  if (drawn.length < 3) return null;
  return (
    <section aria-label="What to look for" className="px-5 pt-4">
      <p className="font-medium">Any one of these, and it is not charged</p>
      <ul className="mt-2 grid grid-cols-2 gap-2 sm:grid-cols-4">
        {drawn.map(({ id, label }) => (
          <li key={id} className="rounded-lg border border-line bg-paper p-2 text-center text-sm text-char">
            {PICTURES[id]}
            {label}
          </li>
        ))}
      </ul>
    </section>
  );
}
