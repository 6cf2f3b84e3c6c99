import type { AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import { definitionOf } from '@cork-ember/core/runsheet/state/sheet.ts';
import { latest } from '@cork-ember/core/runsheet/state/jobState.ts';
import type { DwellStep } from '@cork-ember/core/runsheet/definition/step.ts';
import { whenText } from '@cork-ember/core/clock/clockText.ts';
import { Countdown } from './Countdown.tsx';
import { Override } from './Override.tsx';
import type { StepActions } from './StepCard.tsx';

export function DwellStepBody({
  hand,
  dwell,
  now,
  actions,
}: {
  hand: AtHand;
  dwell: DwellStep;
  now: number;
  actions: StepActions;
}) {
  const { state, step, context } = hand;
  const until = hand.until ?? now;
  const total = context.threshold(dwell.minimum).value * 60_000;
  const next = state.steps[state.cursor + 1];
  const { timeZone } = context.opened.hours;
  const startStep = latest(state, dwell.clockStart(context), step.round);
  return (
    <>
      <div className="px-5 py-5">
        <Countdown until={until} totalMs={total} />
        <p className="mt-3 text-[17px]">
          Until <strong className="reading">{whenText(until, now, timeZone)}</strong>
          {startStep?.doneAt !== undefined && (
            <span className="text-soft">
              {' '}
              · counted from {whenText(startStep.doneAt, now, timeZone)}, “
              {definitionOf(state, startStep).title}”
            </span>
          )}
        </p>
        {next && (
          <p className="mt-1 text-soft">
            Then: <strong className="text-char">{definitionOf(state, next).title}</strong>. Your hands are
            free until then.
          </p>
        )}
      </div>
      {dwell.canOverride && <Override label="Cut it short" stepKey={step.key} actions={actions} />}
    </>
  );
}
