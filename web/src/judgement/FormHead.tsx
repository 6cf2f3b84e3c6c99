/** What stands above every form of evidence: the caution first, how it is done, and why the last try was not taken in. */
import type { CautionId } from '@cork-ember/core/rules/cautions.ts';
import { Cautions } from '../ui/Cautions.tsx';
import { Notice } from '../ui/Notice.tsx';

interface FormHeadProps {
  readonly cautions: readonly CautionId[];
  readonly how: string;
  readonly problem: string;
}

export function FormHead({ cautions, how, problem }: FormHeadProps) {
  return (
    <>
      <Cautions of={cautions} />
      <p className="px-5 pt-3 text-soft">{how}</p>
      {problem !== '' && (
        <div className="mt-3">
          <Notice tone="stop">{problem}</Notice>
        </div>
      )}
    </>
  );
}
