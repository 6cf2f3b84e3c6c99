/** A way that is decided at its end: what is read then, and what is done by it. */
import type { Scored } from '@cork-ember/core/advice/compare.ts';
import { earlyWords, lookWords, readWords } from '@cork-ember/core/advice/tree.ts';
import { percentText } from '@cork-ember/core/units/percent.ts';

export function Stages({ scored }: { scored: Scored | undefined }) {
  const { tree } = scored ?? {};
  if (!tree || tree.branches.length === 0) return null;
  const early = earlyWords(tree);
  return (
    <div className="mt-3" role="group" aria-label="Then decide">
      {early !== undefined && (
        <>
          <p className="font-semibold">Two hours into its charge, look:</p>
          <p className="mb-2 flex flex-wrap items-baseline gap-x-3 py-1.5">
            <span className="reading min-w-36 text-soft">{early}</span>
            <span className="flex-1 font-medium">Break it off and retire it</span>
            <span className="reading whitespace-nowrap">{percentText(tree.givenUp.share)}</span>
          </p>
        </>
      )}
      <p className="font-semibold">Then, charged and rested, read {lookWords(tree)}:</p>
      <ul className="mt-1">
        {tree.branches.map((branch) => (
          <li
            key={branch.way.id}
            className="flex flex-wrap items-baseline gap-x-3 border-t border-line py-1.5 first:border-0"
          >
            <span className="reading min-w-36 text-soft">{readWords(branch)}</span>
            <span className="flex-1 font-medium">{branch.way.title}</span>
            <span className="reading whitespace-nowrap">{percentText(branch.share)}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
