import { Check, X } from 'lucide-react';
import type { AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import type { Verdict } from '@cork-ember/core/runsheet/entries/events.ts';
import { chargeNow } from '@cork-ember/core/runsheet/outcome/chargeNow.ts';
import { procedureOf } from '@cork-ember/core/runsheet/state/sheet.ts';
import type { DecideStep } from '@cork-ember/core/runsheet/definition/step.ts';
import { Button } from '../ui/Button.tsx';
import { Actions } from './Actions.tsx';
import type { StepActions } from './StepCard.tsx';
import { focusQuietly } from '../ui/focusQuietly.ts';

/** A recovery is graded, not passed; where it is not good enough another way may be tried. */
const GRADED = {
  pass: { label: 'Grade it so', say: 'Sign for it, or try another way first.' },
  reject: { label: 'Retire it', say: 'Nothing it is good for.' },
} as const;

const VERDICTS: Record<Verdict, { label: string; tone: 'go' | 'danger' | 'plain'; say: string }> = {
  pass: { label: 'It passes', tone: 'go', say: 'All three hold.' },
  repeat: {
    label: 'Charge it again',
    tone: 'go',
    say: 'Not all hold: another charge and another test, twice at most.',
  },
  reject: { label: 'Reject it', tone: 'danger', say: 'It does not hold; nothing more is tried.' },
};

export function DecideStepBody({
  hand,
  decide,
  actions,
}: {
  hand: AtHand;
  decide: DecideStep;
  actions: StepActions;
}) {
  const { verdict, reasons } = decide.judge(hand.context);
  const charge = chargeNow(hand.state);
  const isRecovery = procedureOf(hand.state).routes !== undefined;
  const { label, say } = isRecovery && verdict !== 'repeat' ? GRADED[verdict] : VERDICTS[verdict];
  // Never charged here, it is not charged again.
  const order = verdict === 'repeat' && !hand.context.isCharged ? 'Charge it' : label;
  const sign = (chosen: Verdict): void =>
    void actions.record({ kind: 'decided', payload: { step: hand.step.key, verdict: chosen } });
  return (
    <>
      <ul className="mt-4 space-y-3 px-5 text-[17px]">
        {reasons.map((reason) => {
          const Icon = reason.isMet ? Check : X;
          return (
            <li key={reason.sentence} className="flex gap-3">
              <Icon
                aria-label={reason.isMet ? 'met' : 'not met'}
                className={`mt-0.5 size-6 shrink-0 ${reason.isMet ? 'text-verdigris' : 'text-clay'}`}
              />
              {reason.sentence}
            </li>
          );
        })}
      </ul>
      {charge && (
        <p className="mt-3 px-5 text-soft">
          Charge {charge.words}, {charge.because}.
        </p>
      )}
      <p className="mt-3 px-5 text-lg font-semibold">{say}</p>
      <Actions>
        <Button
          ref={focusQuietly}
          tone={VERDICTS[verdict].tone}
          className="min-h-16 flex-1 text-lg"
          onClick={() => sign(verdict)}
        >
          {order}
        </Button>
        {verdict !== 'reject' && (
          <Button className="min-h-16" onClick={() => sign('reject')}>
            {isRecovery ? 'Retire it all the same' : 'Reject it all the same'}
          </Button>
        )}
      </Actions>
    </>
  );
}
