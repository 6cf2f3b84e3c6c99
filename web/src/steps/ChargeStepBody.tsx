/** The charge: set it, watch it, stop it when hot, end it when it is proven. */
import { useState, type FormEvent } from 'react';
import { useSearchParams } from 'react-router';
import type { AtHand } from '@cork-ember/core/runsheet/atHand.ts';
import { proofOfFull } from '@cork-ember/core/runsheet/commissioningVerdict.ts';
import { chargeDueMin } from '@cork-ember/core/runsheet/forecast.ts';
import { chargeSpecs, TEMPERATURE_SPEC } from '@cork-ember/core/runsheet/fields.ts';
import { lastReadingOf, minutesOnCharge, readingsOf } from '@cork-ember/core/runsheet/state.ts';
import type { ChargeStep } from '@cork-ember/core/runsheet/step.ts';
import { whenText } from '@cork-ember/core/schedule/clockText.ts';
import type { ReadingSpec } from '@cork-ember/core/units/reading.ts';
import { useShop } from '../api/queries.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Actions } from './Actions.tsx';
import { ChargerChoice, offerFor } from './ChargerChoice.tsx';
import { Countdown } from './Countdown.tsx';
import { ForecastPanel } from './ForecastPanel.tsx';
import { Claims } from './GateStepBody.tsx';
import { ReadingInputs, type AskedReading } from './ReadingInputs.tsx';
import type { StepActions } from './StepCard.tsx';
import { useReadings } from './useReadings.ts';
import { focusQuietly } from '../ui/focusQuietly.ts';

interface ChargeProps {
  readonly hand: AtHand;
  readonly charge: ChargeStep;
  readonly now: number;
  readonly actions: StepActions;
  readonly job: string;
}

function Start({ hand, charge, actions, job }: ChargeProps) {
  const setting = hand.context.chargeSetting();
  const amps = setting.current.value;
  const spec: ReadingSpec = {
    label: 'Current set on the charger',
    unit: 'A',
    decimals: 2,
    possible: { min: amps / 10, max: amps },
    plausible: { min: amps / 10, max: amps },
  };
  const { data: shop } = useShop();
  const offer = offerFor(shop, hand.context, setting);
  const [picked, setPicked] = useState<string>();
  const chosen = offer.fits.find(({ charger: { id } }) => id === picked) ?? offer.fits[0];
  const [params] = useSearchParams();
  const plan = params.get('plan');
  const asked = Number(params.get('amps'));
  const suggested = plan !== null && asked > 0 ? Math.min(asked, amps) : (chosen?.amps ?? amps);
  const fields: AskedReading[] = [{ id: 'currentA', spec, isOptional: false }];
  const readings = useReadings(fields, { currentA: { text: suggested.toFixed(2) } });
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    const currentA = readings.take()?.values['currentA'];
    if (currentA === undefined) return;
    const { totalMin: dueMin } = hand.context.chargeSetting(currentA);
    const charger = chosen ? { charger: chosen.charger } : {};
    void actions.record({
      kind: 'chargeStarted',
      payload: { step: hand.step.key, currentA, dueMin, ...charger },
    });
  };
  return (
    <form onSubmit={submit} noValidate>
      {plan !== null && (
        <div className="mt-4">
          <Notice tone="caution">
            <p className="font-semibold">From What if: {plan}.</p>
            {asked > amps && (
              <p>
                It asks for {asked.toFixed(2)} A; this step allows {amps.toFixed(2)} A,{' '}
                {setting.current.because}
              </p>
            )}
          </Notice>
        </div>
      )}
      <div className="mx-5 mt-4 rounded-lg bg-paper p-4">
        <p className="reading text-2xl font-semibold">
          {amps.toFixed(2)} A for about {(setting.totalMin / 60).toFixed(1)} h,{' '}
          {setting.ceiling.value.toFixed(1)} V at most
        </p>
        <ul className="mt-2 text-soft">
          {setting.working.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      </div>
      <ChargerChoice
        offer={offer}
        chosen={chosen}
        onChoose={(fit) => {
          setPicked(fit.charger.id);
          readings.type('currentA', fit.amps.toFixed(2));
        }}
      />
      <ForecastPanel hand={hand} />
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

function Look({ hand, actions, job }: ChargeProps) {
  const specs = chargeSpecs(hand.context.opened.type, hand.step.charge?.currentA ?? 1);
  const fields: AskedReading[] = [
    { id: 'voltageV', spec: specs.voltageV, isOptional: false, quantity: 'voltage' },
    { id: 'currentA', spec: specs.currentA, isOptional: false, quantity: 'current' },
    { id: 'tempC', spec: specs.tempC, isOptional: false, quantity: 'temperature' },
  ];
  const readings = useReadings(fields);
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const taken = readings.take();
    if (!taken) return;
    const { voltageV = 0, currentA = 0, tempC = 0 } = taken.values;
    const values = { voltageV, currentA, tempC };
    const isRecorded = await actions.record({
      kind: 'chargeRead',
      payload: { step: hand.step.key, values, source: taken.source },
    });
    if (isRecorded) for (const field of fields) readings.type(field.id, '');
  };
  return (
    <form onSubmit={(event) => void submit(event)} noValidate>
      <ReadingInputs fields={fields} readings={readings} job={job} />
      <Actions>
        <Button
          type="submit"
          tone={hand.phase === 'complete' && proofOfFull(hand.context).isMet ? 'plain' : 'go'}
          className="min-h-16 flex-1 text-lg"
        >
          Record the look
        </Button>
      </Actions>
    </form>
  );
}

function Running(props: ChargeProps) {
  const { hand, now, actions } = props;
  const { step, state, context } = hand;
  const { charge } = step;
  if (!charge) return null;
  const dueMin = chargeDueMin(state, step);
  const leftMs = (dueMin - minutesOnCharge(charge, now)) * 60_000;
  const last = lastReadingOf(state, step.key);
  const { timeZone } = context.opened.hours;
  const isComplete = hand.phase === 'complete';
  const proof = proofOfFull(context);
  const mayEnd = proof.isMet || last === undefined;
  const end = (fullSignal: boolean): void =>
    void actions.record({ kind: 'chargeEnded', payload: { step: step.key, fullSignal } });
  return (
    <>
      <div className="px-5 pt-4">
        {isComplete ? (
          <p className="text-2xl font-semibold text-verdigris">
            {mayEnd
              ? 'The time is up.'
              : `Not flat yet: leave it on, look again ${whenText(hand.dueAt, now, timeZone)}.`}
          </p>
        ) : (
          <Countdown isSmall leftMs={leftMs} totalMs={dueMin * 60_000} />
        )}
        <p className="mt-2 text-[17px]">
          On at <strong className="reading">{charge.currentA.toFixed(2)} A</strong>
          {!isComplete && (
            <>
              {' '}
              until about <strong className="reading">{whenText(now + leftMs, now, timeZone)}</strong>
            </>
          )}
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
        <p className="text-soft">{proof.sentence}</p>
      </div>
      <Look key={readingsOf(state, step.key).length} {...props} />
      <div className="flex flex-wrap gap-3 border-t border-line px-5 py-3">
        {isComplete && (
          <Button
            tone={mayEnd ? 'go' : 'plain'}
            className={mayEnd ? 'min-h-16 flex-1 text-lg' : ''}
            onClick={() => end(false)}
          >
            Charger is off at the mains
          </Button>
        )}
        {!isComplete && <Button onClick={() => end(true)}>Charger shows full, it is off</Button>}
        {!isComplete && (
          <Button
            onClick={() =>
              void actions.record({ kind: 'chargePaused', payload: { step: step.key, reason: 'stopped' } })
            }
          >
            Pause: charger is off
          </Button>
        )}
        <Button
          onClick={() =>
            void actions.record({ kind: 'chargePaused', payload: { step: step.key, reason: 'hot' } })
          }
        >
          Too hot to touch: charger is off
        </Button>
      </div>
      <ForecastPanel hand={hand} />
      <div className="h-5" />
    </>
  );
}

function TooHot({ hand, actions }: ChargeProps) {
  return (
    <>
      <div className="mt-4">
        <Notice tone="stop">
          <p className="text-xl font-bold">{hand.hold?.why}</p>
        </Notice>
      </div>
      <Actions>
        <Button
          ref={focusQuietly}
          tone="danger"
          className="min-h-20 flex-1 text-xl"
          onClick={() =>
            void actions.record({ kind: 'chargePaused', payload: { step: hand.step.key, reason: 'hot' } })
          }
        >
          Charger is off
        </Button>
      </Actions>
    </>
  );
}

function Cooling({ hand, actions, job, now }: ChargeProps) {
  const fields: AskedReading[] = [
    { id: 'tempC', spec: TEMPERATURE_SPEC, isOptional: false, quantity: 'temperature' },
  ];
  const readings = useReadings(fields);
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    const tempC = readings.take()?.values['tempC'];
    if (tempC !== undefined)
      void actions.record({ kind: 'chargeResumed', payload: { step: hand.step.key, tempC } });
  };
  const below = hand.context.threshold('hotResumeC').value;
  const { timeZone } = hand.context.opened.hours;
  return (
    <form onSubmit={submit} noValidate>
      <div className="mt-4">
        <Notice tone="caution">
          <p className="font-semibold">
            {hand.hold?.why} It goes on again below {below} °C.
          </p>
          <p>Look again at {whenText(hand.dueAt, now, timeZone)}.</p>
        </Notice>
      </div>
      <ReadingInputs fields={fields} readings={readings} job={job} />
      <Actions>
        <Button type="submit" tone="go" className="min-h-16 flex-1 text-lg">
          Charger is on again
        </Button>
      </Actions>
    </form>
  );
}

export function ChargeStepBody(props: ChargeProps) {
  switch (props.hand.phase) {
    case 'ready':
      return <Start {...props} />;
    case 'tooHot':
      return <TooHot {...props} />;
    case 'cooling':
    case 'stopped':
      return <Cooling {...props} />;
    default:
      return <Running {...props} />;
  }
}
