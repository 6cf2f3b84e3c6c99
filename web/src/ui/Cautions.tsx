/** The cautions that stand before what can hurt somebody. */
import { CAUTIONS, type CautionId } from '@cork-ember/core/rules/cautions.ts';
import { Notice } from './Notice.tsx';

export function Cautions({ of: ids }: { of: readonly CautionId[] }) {
  if (ids.length === 0) return null;
  return (
    <Notice tone="caution">
      {ids.map((id) => (
        <p key={id}>{CAUTIONS[id]}</p>
      ))}
    </Notice>
  );
}
