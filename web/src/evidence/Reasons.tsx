/** Reading by reading: what speaks for which cause, and what against. */
import { CAUSE_IDS } from '@cork-ember/core/belief/causes.ts';
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

export function Reasons({ explained }: { explained: readonly Explained[] }) {
  return (
    <section aria-labelledby="reasons-title" className={card({ pad: 'wide' })}>
      <h2 id="reasons-title" className="text-lg font-bold">
        Why
      </h2>
      {explained.length === 0 ? (
        <p className="mt-2 text-soft">
          Nothing is read yet: this is what its kind, age and history make likely.
        </p>
      ) : (
        <ol className="mt-2">
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
