import { STEP } from '@cork-ember/core/runsheet/definition/stepIds.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { planText, type IntakePlan } from '@cork-ember/core/schedule/intakePlan.ts';
import { toolsFor } from '@cork-ember/core/runsheet/plan/tools.ts';
import { contextOf } from '@cork-ember/core/runsheet/state/context.ts';
import { definitionOf } from '@cork-ember/core/runsheet/state/sheet.ts';
import { durationText, whenText } from '@cork-ember/core/clock/clockText.ts';
import { Cord } from '../cord/Cord.tsx';
import { Hours } from '../cord/Hours.tsx';
import type { TimeScale } from '../cord/scale.ts';
import { useWidth } from '../cord/useWidth.ts';
import { Notice } from '../ui/Notice.tsx';
import { SourceChip } from '../ui/SourceChip.tsx';
import type { Planned } from './usePlan.ts';
import { card } from '../ui/card.ts';

const MINUTE = 60_000;

function PlanCord({ plan, timeZone }: { plan: IntakePlan; timeZone: string }) {
  const [ref, width] = useWidth<HTMLDivElement>(480);
  const from = plan.state.openedAt;
  const scale: TimeScale = {
    from: from - 15 * MINUTE,
    to:
      Math.max(plan.readyAt, Math.min(plan.state.opened.promisedAt, plan.readyAt + 360 * MINUTE)) +
      60 * MINUTE,
    width,
  };
  return (
    <div ref={ref}>
      <svg width={width} height={100} role="img" aria-label={planText(plan)}>
        <Hours scale={scale} y={95} timeZone={timeZone} />
        <Cord
          forecast={plan.forecast}
          scale={scale}
          now={from}
          timeZone={timeZone}
          y={50}
          promisedAt={plan.state.opened.promisedAt}
        />
      </svg>
    </div>
  );
}

/** What accepting would mean, before it is accepted. */
export function PlanPanel({ shop, planned, now }: { shop: Shop; planned: Planned | undefined; now: number }) {
  const { timeZone } = shop.hours;
  if (!planned)
    return (
      <section aria-label="Plan" className="rounded-xl border border-dashed border-cork p-6 text-soft">
        Choose a type, and the plan is drawn here: when hands are needed, when it charges, when it is ready.
      </section>
    );
  const { plan, waitsFor } = planned;
  const context = contextOf(plan.state, 1);
  const setting = context.chargeSetting();
  const at = plan.state.openedAt;
  const isRecovery = plan.forecast.isOpenEnded;
  return (
    <section aria-label="Plan" className={card({ pad: 'wide', className: 'min-w-0 space-y-4' })}>
      <div>
        <p className="text-xl font-bold text-verdigris">
          {isRecovery ? 'Looked into by' : 'Ready'} {whenText(plan.readyAt, at, timeZone)}
        </p>
        <p>
          {isRecovery
            ? 'What it needs, and whether it is worth it, is known then: a charge takes a day, pulses or a soak several.'
            : `${planText(plan)}.`}
        </p>
      </div>
      {waitsFor && (
        <Notice tone="caution">
          It waits on the shelf: bay {waitsFor.number} is free{' '}
          {waitsFor.freeAt <= now + MINUTE ? 'now' : whenText(waitsFor.freeAt, now, timeZone)}, and it is
          planned from then.
        </Notice>
      )}
      <PlanCord plan={plan} timeZone={timeZone} />
      {plan.risks.map((risk) => (
        <Notice key={risk.sentence} tone={risk.isSerious ? 'stop' : 'caution'}>
          {risk.sentence}
        </Notice>
      ))}
      <dl className="grid grid-cols-2 gap-3">
        <div>
          <dt className="text-sm text-soft">Hands</dt>
          <dd className="reading text-lg font-semibold">{Math.round(plan.forecast.handsLeftMin)} min</dd>
        </div>
        <div>
          <dt className="text-sm text-soft">{isRecovery ? 'Until the first choice' : 'From now to ready'}</dt>
          <dd className="reading text-lg font-semibold">{durationText(plan.readyAt - now)}</dd>
        </div>
      </dl>
      <details>
        <summary className="flex min-h-12 cursor-pointer items-center font-semibold">
          What it needs on the bench
        </summary>
        <ul className="list-disc pl-5 text-soft">
          {toolsFor(plan.state.opened).map((tool) => (
            <li key={tool}>{tool}</li>
          ))}
        </ul>
      </details>
      {!isRecovery && (
        <div>
          <h2 className="font-semibold">First charge, as far as is known now</h2>
          <ul className="mt-1 text-soft">
            {setting.working.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
          <p className="mt-3 flex flex-wrap gap-2">
            <SourceChip label="Current" sourced={setting.current} />
            {plan.state.steps.flatMap((step) => {
              const definition = definitionOf(plan.state, step);
              return definition.kind === 'dwell' && definition.id !== STEP.gasWait ? (
                <SourceChip
                  key={step.key}
                  label={definition.title}
                  sourced={context.threshold(definition.minimum)}
                />
              ) : (
                []
              );
            })}
          </p>
        </div>
      )}
    </section>
  );
}
