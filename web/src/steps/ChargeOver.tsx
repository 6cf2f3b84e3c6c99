/** A charge that a stop rule has ended: why, and the one way on. */
import type { AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import { Button } from '../ui/Button.tsx';
import { focusQuietly } from '../ui/focusQuietly.ts';
import { Notice } from '../ui/Notice.tsx';
import { Actions } from './Actions.tsx';

export interface ChargeOverProps {
  readonly hand: AtHand;
  /** What becomes of the battery, in a sentence. */
  readonly then?: string;
  readonly label: string;
  readonly onGo: () => unknown;
}

export function ChargeOver({ hand, then, label, onGo }: ChargeOverProps) {
  return (
    <>
      <div className="mt-4">
        <Notice tone="stop">
          <p className="text-xl font-bold">{hand.step.charge?.stopped?.why}</p>
          <p>It is off and does not go on again. {then}</p>
        </Notice>
      </div>
      <Actions>
        <Button ref={focusQuietly} tone="go" className="min-h-16 flex-1 text-lg" onClick={() => void onGo()}>
          {label}
        </Button>
      </Actions>
    </>
  );
}
