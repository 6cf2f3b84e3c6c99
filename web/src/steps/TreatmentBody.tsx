/** A charge of a recovery: its limits before it starts, its clock and looks while it runs, its end. */
import { givesFullSignal, type Charger } from '@cork-ember/core/charge/charger.ts';
import { isDone } from '@cork-ember/core/runsheet/verdict/chargeLimits.ts';
import { chargerMisfit } from '@cork-ember/core/runsheet/verdict/chargerFit.ts';
import { chargeDueMin } from '@cork-ember/core/runsheet/plan/forecast.ts';
import { evidenceOf } from '@cork-ember/core/runsheet/state/context.ts';
import { lastReadingOf, minutesOnCharge } from '@cork-ember/core/runsheet/state/looks.ts';
import type { Treatment } from '@cork-ember/core/runsheet/definition/step.ts';
import { durationText, whenText } from '@cork-ember/core/clock/clockText.ts';
import type { ReadingSpec } from '@cork-ember/core/units/reading.ts';
import { useShop } from '../api/queries.ts';
import { useKept } from './useKept.ts';
import { useBand } from '../judgement/useBand.ts';
import type { AskedReading } from '../readings/ReadingFields.tsx';
import { ReadingForm } from '../readings/ReadingForm.tsx';
import { useReadings, type TakenReadings } from '../readings/useReadings.ts';
import { useDraft } from '../store/drafts.ts';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import { LogImport } from './LogImport.tsx';
import { ChargeOver } from './ChargeOver.tsx';
import { BandPanel, Going } from './BandPanel.tsx';
import { Cooling, HandNote, HotOff, Look, TooHot, type ChargeProps } from './ChargeLook.tsx';
import { Countdown } from './Countdown.tsx';
import { Claims } from './GateStepBody.tsx';
import { Pulses } from './Pulses.tsx';
import { SetCurrent } from './SetCurrent.tsx';

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

interface Judged {
  readonly charger: Charger;
  readonly why: string | undefined;
}

/** The shop's chargers held against this charge, the bay's own first. */
function useJudged(
  { context, step }: TreatmentProps['hand'],
  treatment: Treatment,
): readonly Judged[] | undefined {
  const { data: shop } = useShop();
  const own = shop?.bays.find(({ number }) => number === context.bay)?.charger;
  return shop?.chargers
    .toSorted((a, b) => Number(b.id === own) - Number(a.id === own))
    .map((charger) => ({ charger, why: chargerMisfit(charger, treatment, context, step.stepId) }));
}

/** Those that can give this charge to choose from, and why the others do not. */
function Suitable({
  judged,
  chosen,
  onChoose,
}: {
  judged: readonly Judged[];
  chosen: string | undefined;
  onChoose: (id: string) => void;
}) {
  const suits = judged.filter(({ why }) => why === undefined);
  const others = judged.flatMap(({ why }) => why ?? []);
  return (
    <section aria-label="Charger" className="px-5 pt-4">
      {suits.length === 0 && <p className="mb-1 text-clay">None of the shop’s gives this charge.</p>}
      <Choice
        legend="With which charger?"
        isNamed
        options={[
          ...suits.map(({ charger: { id, name } }) => ({ id, label: name })),
          { id: '', label: 'Another' },
        ]}
        chosen={chosen ?? ''}
        onChoose={onChoose}
      />
      {others.length > 0 && (
        <details>
          <summary className="flex min-h-12 cursor-pointer items-center font-medium text-soft">
            Why not another of the shop’s ({others.length})
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

function Start(props: TreatmentProps) {
  const judged = useJudged(props.hand, props.treatment);
  return judged ? <StartForm {...props} judged={judged} /> : null;
}

function StartForm({
  hand,
  charge,
  treatment,
  actions,
  job,
  judged,
}: TreatmentProps & { judged: readonly Judged[] }) {
  const { working } = treatment;
  const form = `${job} ${hand.step.key} start`;
  const suits = judged.filter(({ why }) => why === undefined).map(({ charger: one }) => one);
  // The name of the form alone: what is chosen says what its field may hold.
  const { fields: draft } = useDraft(form);
  const picked = draft['charger']?.text;
  const charger = picked === undefined ? suits[0] : suits.find(({ id }) => id === picked);
  // A smaller charger gives what it can, for longer.
  const mostA = Math.min(treatment.mostA, charger?.mostA ?? Number.POSITIVE_INFINITY);
  const setA = Math.min(treatment.setA, mostA);
  const range = { min: treatment.setA / 10, max: mostA };
  const spec: ReadingSpec = {
    label: 'Current set on the charger',
    unit: 'A',
    decimals: 2,
    possible: range,
    plausible: range,
  };
  const fields: AskedReading[] = [{ id: 'currentA', spec, isOptional: false }];
  const readings = useReadings(form, fields, { currentA: setA });
  const choose = (id: string): void => {
    readings.choose('charger', id);
    const next = suits.find((one) => one.id === id)?.mostA ?? Number.POSITIVE_INFINITY;
    readings.put('currentA', Math.min(treatment.setA, treatment.mostA, next));
  };
  const start = ({ values: { currentA = setA } }: TakenReadings): Promise<boolean> =>
    actions.record({
      kind: 'chargeStarted',
      payload: { step: hand.step.key, currentA, ...(charger ? { charger } : {}) },
    });
  return (
    <ReadingForm readings={readings} fields={fields} job={job} answer="Charger is on" onTake={start}>
      <div className="mx-5 mt-4 rounded-lg bg-paper p-4">
        <Limits treatment={treatment} />
        <ul className="mt-3 space-y-1 text-soft">
          {working.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      </div>
      {treatment.isPulsed && <Pulses charger={charger} type={hand.context.opened.type} />}
      <Suitable judged={judged} chosen={charger?.id} onChoose={choose} />
      <Claims claims={charge.claims} />
    </ReadingForm>
  );
}

function Running(props: TreatmentProps) {
  const { hand, now, actions, treatment } = props;
  const { step, state, context } = hand;
  const { charge } = step;
  const tracked = useBand(hand, treatment);
  const kept = useKept(state, charge, now);
  if (!charge) return null;
  const dueMin = chargeDueMin(state, step);
  const leftMs = (dueMin - minutesOnCharge(charge, now)) * 60_000;
  const last = lastReadingOf(state, step.key);
  const { timeZone } = context.opened.hours;
  const isComplete = hand.phase === 'complete';
  const evidence = evidenceOf(state, step);
  const isProven = evidence !== undefined && isDone(context, evidence);
  const showsFull = charge.charger !== undefined && givesFullSignal(charge.charger);
  return (
    <>
      <div className="px-5 pt-4">
        <div className="flex flex-wrap items-center gap-3">
          <div className="min-w-52 flex-1">
            {isComplete ? (
              <p className="text-2xl font-semibold text-verdigris">
                {isProven ? (treatment.done ?? 'Done: the looks say so.') : 'The time is up.'}
              </p>
            ) : (
              <Countdown isSmall until={now + leftMs} totalMs={dueMin * 60_000} />
            )}
          </div>
          <HotOff hand={hand} actions={actions} />
        </div>
        <p className="mt-2 text-[17px]">
          {charge.charger ? `${charge.charger.name} on` : 'On'} at{' '}
          <strong className="reading">{charge.currentA.toFixed(2)} A</strong>, at most{' '}
          <span className="reading">
            {Math.min(treatment.ceilingV, charge.setV ?? Infinity).toFixed(1)} V
          </span>{' '}
          and <span className="reading">{treatment.hotC} °C</span>
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
        {isComplete && (
          <Button
            tone="go"
            className="mt-4 min-h-16 w-full text-lg"
            onClick={() =>
              void actions.record({ kind: 'chargeEnded', payload: { step: step.key, fullSignal: false } })
            }
          >
            Charger is off at the mains
          </Button>
        )}
      </div>
      <HandNote hand={hand} />
      {treatment.isPulsed && <Pulses charger={charge.charger} last={last} type={context.opened.type} />}
      {tracked.going && <Going going={tracked.going} />}
      <Look {...props} isQuiet={isComplete} />
      {treatment.isAttended && !isComplete && (
        <SetCurrent
          key={`${charge.currentA} ${charge.setV ?? ''}`}
          job={props.job}
          step={step.key}
          cells={context.opened.type.cells}
          currentA={charge.currentA}
          treatment={treatment}
          actions={actions}
        />
      )}
      <LogImport hand={hand} actions={actions} />
      <BandPanel tracked={tracked} kept={kept} />
      <div className="flex flex-wrap gap-3 border-t border-line px-5 py-3">
        {!isComplete && showsFull && (
          <Button
            onClick={() =>
              void actions.record({ kind: 'chargeEnded', payload: { step: step.key, fullSignal: true } })
            }
          >
            Charger shows full, it is off
          </Button>
        )}
        <Button
          onClick={() =>
            void actions.record({ kind: 'chargePaused', payload: { step: step.key, reason: 'stopped' } })
          }
        >
          Pause: charger is off
        </Button>
      </div>
      <div className="h-3" />
    </>
  );
}

/** A stop rule has ended it: nothing is left but another way. */
function Over({ hand, actions }: TreatmentProps) {
  const reason = hand.step.charge?.stopped?.why ?? '';
  return (
    <ChargeOver
      hand={hand}
      label="Leave this route, choose another way"
      onGo={() => actions.record({ kind: 'routeLeft', payload: { step: hand.step.key, reason } })}
    />
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
