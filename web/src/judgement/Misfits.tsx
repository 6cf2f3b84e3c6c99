/** Readings that nothing believed of a battery explains: read again first, or it is something the judgement does not know. */
import type { Misfit } from '@cork-ember/core/belief/misfit.ts';
import { readingWords } from '@cork-ember/core/belief/words.ts';
import { Notice } from '../ui/Notice.tsx';

/** More than the strangest few say no more. */
const SHOWN = 3;

interface MisfitsProps {
  readonly misfits: readonly Misfit[];
  /** Where what to do about it is said beside. */
  readonly isBrief?: boolean;
}

export function Misfits({ misfits, isBrief = false }: MisfitsProps) {
  const [first, ...more] = misfits.slice(0, SHOWN).map(({ reading }) => readingWords(reading));
  if (first === undefined) return null;
  const isTogether = misfits[0]?.isTogether === true;
  return (
    <Notice tone="caution">
      <p role="status" className="font-semibold">
        {isTogether
          ? `All that was read of it together fits nothing that is known, and this least: ${first}.`
          : `${first}: nothing known of this battery explains that beside what else was read.`}
      </p>
      {!isBrief && (
        <p>
          Read it again: another battery, another cell, °F for °C, a slipped digit? If it stays so, it is
          something that is not judged here; what is said below owns to the doubt.
          {more.length > 0 && ` Hard to explain too: ${more.join('; ')}.`}
        </p>
      )}
    </Notice>
  );
}
