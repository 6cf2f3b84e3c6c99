/** Reading by reading: what speaks for which cause, and what against. */
import { Link } from 'react-router';
import { CAUSE_IDS } from '@cork-ember/core/candidate/causes.ts';
import type { Explained, Factors } from '@cork-ember/core/belief/explain.ts';
import { factorWords, groupWords, movedWords } from '@cork-ember/core/belief/words.ts';
import { card } from '../ui/card.ts';

const MOST_WORDS = 2;

/** What it speaks for most, then what it speaks against most. */
function wordsOf(factors: Factors): string {
  const ordered = CAUSE_IDS.map((cause) => ({ cause, factor: factors[cause] })).sort(
    (a, b) => b.factor - a.factor,
  );
  const speaks = ordered.filter(({ factor }) => factor > 1).slice(0, MOST_WORDS);
  const against = ordered.filter(({ factor }) => factor < 1).slice(-MOST_WORDS);
  const words = [...speaks, ...against].flatMap(({ cause, factor }) => factorWords(cause, factor) ?? []);
  return words.length === 0 ? 'says little' : words.join(' · ');
}

interface ReasonsProps {
  readonly explained: readonly Explained[];
  /** Jobs of this shop that its odds before any reading rest on. */
  readonly jobs: number;
}

/** What the odds begin from. */
const beginning = (jobs: number): string =>
  jobs === 0
    ? 'its kind, age and history by the handbook'
    : `its kind, age and history by the handbook and by what ${jobs === 1 ? 'one job' : `${jobs} jobs`} here turned out to be`;

export function Reasons({ explained, jobs }: ReasonsProps) {
  return (
    <section aria-labelledby="reasons-title" className={card({ pad: 'wide' })}>
      <h2 id="reasons-title" className="text-lg font-bold">
        Why
      </h2>
      {explained.length === 0 ? (
        <p className="mt-2 text-soft">Nothing is read yet: this is what {beginning(jobs)} make likely.</p>
      ) : (
        <ol className="mt-2">
          <li className="pb-2.5 text-soft">
            It begins from {beginning(jobs)}.{' '}
            {jobs > 0 && (
              <Link to="/setup?part=learning" className="text-verdigris underline underline-offset-4">
                What is learned
              </Link>
            )}
          </li>
          {explained.map(({ readings, factors, moved }, index) => (
            <li key={index} className="border-t border-line py-2.5 first:border-0">
              <p className="font-medium">{groupWords(readings)}</p>
              <p>{moved ? movedWords(moved) : 'Is being taken in …'}</p>
              <p className="text-sm text-soft">
                {factors ? `By itself: ${wordsOf(factors)}` : 'is being held against each cause …'}
              </p>
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}
