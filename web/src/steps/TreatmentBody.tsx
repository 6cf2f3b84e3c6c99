/** A charge of a recovery: its limits before it starts, its clock and looks while it runs, its end. */
import type { FormEvent } from 'react';
import { treatmentMisfit } from '@cork-ember/core/charge/treatmentFit.ts';
import { subjectOfType } from '@cork-ember/core/model/fromType.ts';
import { restedV } from '@cork-ember/core/runsheet/procedures/recovery/wakeRoutes.ts';
import { chargeDueMin } from '@cork-ember/core/runsheet/forecast.ts';
import { lastReadingOf, minutesOnCharge, readingsOf } from '@cork-ember/core/runsheet/state.ts';
import type { Treatment } from '@cork-ember/core/runsheet/step.ts';
import { durationText, whenText } from '@cork-ember/core/schedule/clockText.ts';
import type { ReadingSpec } from '@cork-ember/core/units/reading.ts';
import { useShop } from '../api/queries.ts';
import { useBand } from '../belief/useBand.ts';
import { Button } from '../ui/Button.tsx';
import { focusQuietly } from '../ui/focusQuietly.ts';
import { Notice } from '../ui/Notice.tsx';
import { LogImport } from './LogImport.tsx';
import { Actions } from './Actions.tsx';
import { BandPanel, Going } from './BandPanel.tsx';
import { Cooling, Look, TooHot, type ChargeProps } from './ChargeLook.tsx';
import { Countdown } from './Countdown.tsx';
import { Claims } from './GateStepBody.tsx';
import { ReadingInputs, type AskedReading } from './ReadingInputs.tsx';
import { useReadings } from './useReadings.ts';

type TreatmentProps = ChargeProps & { readonly treatment: Treatment };

/** Limits of a route as a table of three. */
function Limits({ treatment }: { treatment: Treatment }) {
  const { setA, ceilingV, hotC, dueMin } = treatment;
  const limits = [
    ['Current', `${setA.toFixed(2)} A`],
    ['At most', `${ceilingV.toFixed(1)} V`],
    ['Off above', `${hotC} °C`],
    ['For about', durationText(dueMin * 60_000)],
  ] as const;
  return (
    <dl className="grid grid-cols-2 gap-3 sm:grid-cols-4">
      {limits.map(([name, value]) => (
        <div key={name}>
          <dt className="text-sm text-soft">{name}</dt>
          <dd className="reading text-xl font-semibold">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

/** The shop's chargers that can give this charge, the bay's own first, and why the others do not. */
function Suitable({
  hand: { context, step },
  treatment,
}: {
  hand: TreatmentProps['hand'];
  treatment: Treatment;
}) {
  const { data: shop } = useShop();
  if (!shop) return null;
  const { type, bay } = context.opened;
  const own = shop.bays.find(({ number }) => number === bay)?.charger;
  const wanted = {
    mostA: treatment.mostA,
    ceilingV: treatment.ceilingV,
    minutes: treatment.dueMin,
    isPulsed: step.stepId === 'pulse',
  };
  const donorV = step.stepId === 'donor-hour' ? context.valuesOf('donor-check')['donorV'] : undefined;
  const seenV = typeof donorV === 'number' ? donorV : (restedV(context) ?? 0);
  const judged = [...shop.chargers]
    .sort((a, b) => Number(b.id === own) - Number(a.id === own))
    .map((one) => ({ one, why: treatmentMisfit(one, wanted, subjectOfType(type, {}), seenV) }));
  const suits = judged.filter(({ why }) => why === undefined);
  const others = judged.flatMap(({ why }) => why ?? []);
  return (
    <section aria-label="Chargers" className="px-5 pt-4">
      <p>
        <span className="font-medium">Chargers that give this: </span>
        {suits.length === 0
          ? 'none of the shop’s.'
          : `${suits.map(({ one }) => (one.id === own ? `${one.name} (this bay’s)` : one.name)).join(', ')}.`}
      </p>
      {others.length > 0 && (
        <details>
          <summary className="flex min-h-12 cursor-pointer items-center font-medium text-soft">
            Why not another ({others.length})
          </summary>
          <ul className="space-y-1 pb-2 text-soft">
            {others.map((why) => (
              <li key={why}>{why}</li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

function Start({ hand, charge, treatment, actions, job }: TreatmentProps) {
  const { setA, mostA, working } = treatment;
  const spec: ReadingSpec = {
    label: 'Current set on the charger',
    unit: 'A',
    decimals: 2,
    possible: { min: setA / 10, max: mostA },
    plausible: { min: setA / 10, max: mostA },
  };
  const fields: AskedReading[] = [{ id: 'currentA', spec, isOptional: false }];
  const readings = useReadings(fields, { currentA: { text: setA.toFixed(2) } });
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    const currentA = readings.take()?.values['currentA'];
    if (currentA === undefined) return;
    void actions.record({ kind: 'chargeStarted', payload: { step: hand.step.key, currentA } });
  };
  return (
    <form onSubmit={submit} noValidate>
      <div className="mx-5 mt-4 rounded-lg bg-paper p-4">
        <Limits treatment={treatment} />
        <ul className="mt-3 space-y-1 text-soft">
          {working.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      </div>
      <Suitable hand={hand} treatment={treatment} />
      <Claims claims={charge.claims} />
      <ReadingInputs fields={fields} readings={readings} job={job} />
      <Actions>
        <Button type="submit" tone="go" className="min-h-16 flex-1 text-lg">
          Charger is on
        </Button>
      </Actions>
    </form>
  );
}

function Running(props: TreatmentProps) {
  const { hand, now, actions, treatment } = props;
  const { step, state, context } = hand;
  const { charge } = step;
  const tracked = useBand(hand, treatment);
  if (!charge) return null;
  const dueMin = chargeDueMin(state, step);
  const leftMs = (dueMin - minutesOnCharge(charge, now)) * 60_000;
  const looks = readingsOf(state, step.key);
  const last = lastReadingOf(state, step.key);
  const { timeZone } = context.opened.hours;
  const isComplete = hand.phase === 'complete';
  return (
    <>
      <div className="px-5 pt-4">
        {isComplete ? (
          <p className="text-2xl font-semibold text-verdigris">
            {treatment.isDone(looks) ? 'Done: the looks say so.' : 'The time is up.'}
          </p>
        ) : (
          <Countdown isSmall leftMs={leftMs} totalMs={dueMin * 60_000} />
        )}
        <p className="mt-2 text-[17px]">
          On at <strong className="reading">{charge.currentA.toFixed(2)} A</strong>, at most{' '}
          <span className="reading">{treatment.ceilingV.toFixed(1)} V</span> and{' '}
          <span className="reading">{treatment.hotC} °C</span>
          {last && (
            <span className="text-soft">
              {' '}
              · last look {whenText(last.at, now, timeZone)}:{' '}
              <span className="reading whitespace-nowrap">
                {last.voltageV.toFixed(2)} V {last.currentA.toFixed(2)} A {last.tempC.toFixed(1)} °C
              </span>
            </span>
          )}
        </p>
      </div>
      {tracked.going && <Going going={tracked.going} />}
      <Look key={looks.length} {...props} isQuiet={isComplete} />
      <LogImport hand={hand} actions={actions} />
      <BandPanel tracked={tracked} />
      <div className="flex flex-wrap gap-3 border-t border-line px-5 py-3">
        {isComplete ? (
          <Button
            tone="go"
            className="min-h-16 flex-1 text-lg"
            onClick={() =>
              void actions.record({ kind: 'chargeEnded', payload: { step: step.key, fullSignal: false } })
            }
          >
            Charger is off at the mains
          </Button>
        ) : (
          <Button
            onClick={() =>
              void actions.record({ kind: 'chargeEnded', payload: { step: step.key, fullSignal: true } })
            }
          >
            Charger shows full, it is off
          </Button>
        )}
        {(['stopped', 'hot'] as const).map((reason) => (
          <Button
            key={reason}
            onClick={() => void actions.record({ kind: 'chargePaused', payload: { step: step.key, reason } })}
          >
            {reason === 'hot' ? 'Too hot to touch: charger is off' : 'Pause: charger is off'}
          </Button>
        ))}
      </div>
      <div className="h-3" />
    </>
  );
}

/** A stop rule has ended it: nothing is left but another way. */
function Over({ hand, actions }: TreatmentProps) {
  const why = hand.step.charge?.endedFor ?? '';
  return (
    <>
      <div className="mt-4">
        <Notice tone="stop">
          <p className="text-xl font-bold">{why}</p>
          <p>It is off and does not go on again.</p>
        </Notice>
      </div>
      <Actions>
        <Button
          ref={focusQuietly}
          tone="go"
          className="min-h-16 flex-1 text-lg"
          onClick={() =>
            void actions.record({ kind: 'routeLeft', payload: { step: hand.step.key, reason: why } })
          }
        >
          Leave this route, choose another way
        </Button>
      </Actions>
    </>
  );
}

export function TreatmentBody(props: TreatmentProps) {
  switch (props.hand.phase) {
    case 'ready':
      return <Start {...props} />;
    case 'tooHot':
      return <TooHot {...props} />;
    case 'cooling':
    case 'stopped':
      return <Cooling {...props} />;
    case 'over':
      return <Over {...props} />;
    default:
      return <Running {...props} />;
  }
}
