/** The charge: set it, watch it, stop it when hot, end it when it is proven. */
import { useSearchParams } from 'react-router';
import { givesFullSignal } from '@cork-ember/core/charge/charger.ts';
import { timeInstruction } from '@cork-ember/core/charge/firstChargeFit.ts';
import { proofOfFull } from '@cork-ember/core/runsheet/verdict/commissioningVerdict.ts';
import { chargeDueMin } from '@cork-ember/core/runsheet/plan/forecast.ts';
import { lastReadingOf, minutesOnCharge } from '@cork-ember/core/runsheet/state/looks.ts';
import { durationText, whenText } from '@cork-ember/core/clock/clockText.ts';
import type { ReadingSpec } from '@cork-ember/core/units/reading.ts';
import { useShop } from '../api/queries.ts';
import type { AskedReading } from '../readings/ReadingFields.tsx';
import { ReadingForm } from '../readings/ReadingForm.tsx';
import { useReadings, type TakenReadings } from '../readings/useReadings.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { ChargeOver } from './ChargeOver.tsx';
import { ChargerChoice, offerFor } from './ChargerChoice.tsx';
import { Countdown } from './Countdown.tsx';
import { Cooling, HandNote, HotOff, Look, TooHot, type ChargeProps } from './ChargeLook.tsx';
import { ForecastPanel } from './ForecastPanel.tsx';
import { Claims } from './GateStepBody.tsx';
import { later } from '../ui/later.tsx';

const TreatmentBody = later(
  async () => (await import('./TreatmentBody.tsx')).TreatmentBody,
  <p className="p-4 text-soft">One moment …</p>,
);

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
  const [params] = useSearchParams();
  const plan = params.get('plan');
  const asked = Number(params.get('amps'));
  const suggested = plan !== null && asked > 0 ? Math.min(asked, amps) : (offer.fits[0]?.amps ?? amps);
  const fields: AskedReading[] = [{ id: 'currentA', spec, isOptional: false }];
  const readings = useReadings(`${job} ${hand.step.key} start`, fields, { currentA: suggested });
  const picked = readings.choice('charger');
  const chosen = offer.fits.find(({ charger: { id } }) => id === picked) ?? offer.fits[0];
  const start = ({ values: { currentA = amps } }: TakenReadings): Promise<boolean> => {
    const { totalMin: dueMin } = hand.context.chargeSetting(currentA);
    const charger = chosen ? { charger: chosen.charger } : {};
    return actions.record({
      kind: 'chargeStarted',
      payload: { step: hand.step.key, currentA, dueMin, ...charger },
    });
  };
  return (
    <ReadingForm readings={readings} fields={fields} job={job} answer="Charger is on" onTake={start}>
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
          {amps.toFixed(2)} A for about {durationText(setting.totalMin * 60_000)},{' '}
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
        time={
          chosen
            ? timeInstruction(
                chosen.charger,
                hand.context.chargeSetting(chosen.amps).totalMin,
                charge.lookEveryMin,
              )
            : ''
        }
        onChoose={(fit) => {
          readings.choose('charger', fit.charger.id);
          readings.put('currentA', fit.amps);
        }}
      />
      <ForecastPanel hand={hand} />
      <Claims claims={charge.claims} />
    </ReadingForm>
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
        <div className="flex flex-wrap items-center gap-3">
          <div className="min-w-52 flex-1">
            {isComplete ? (
              <p className="text-2xl font-semibold text-verdigris">
                {mayEnd
                  ? proof.isMet
                    ? 'It is full: take it off.'
                    : 'The time is up.'
                  : `Not flat yet: leave it on, look ${hand.dueAt <= now ? 'now' : `again ${whenText(hand.dueAt, now, timeZone)}`}.`}
              </p>
            ) : (
              <Countdown isSmall until={now + leftMs} totalMs={dueMin * 60_000} />
            )}
          </div>
          <HotOff hand={hand} actions={actions} />
        </div>
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
        {isComplete && mayEnd && (
          <Button tone="go" className="mt-4 min-h-16 w-full text-lg" onClick={() => end(false)}>
            Charger is off at the mains
          </Button>
        )}
      </div>
      <HandNote hand={hand} />
      <Look {...props} isQuiet={isComplete && proof.isMet} />
      <div className="flex flex-wrap gap-3 border-t border-line px-5 py-3">
        {isComplete && !mayEnd && <Button onClick={() => end(false)}>Charger is off at the mains</Button>}
        {!isComplete && charge.charger && givesFullSignal(charge.charger) && (
          <Button onClick={() => end(true)}>Charger shows full, it is off</Button>
        )}
        {!isComplete && (
          <Button
            onClick={() =>
              void actions.record({ kind: 'chargePaused', payload: { step: step.key, reason: 'stopped' } })
            }
          >
            Pause: charger is off
          </Button>
        )}
      </div>
      <ForecastPanel hand={hand} now={now} />
      <div className="h-5" />
    </>
  );
}

/** A stop rule has ended it: it is tested as it is, and the verdict says why. */
function Over({ hand, actions }: ChargeProps) {
  return (
    <ChargeOver
      hand={hand}
      then="It is disconnected, rested and tested as it is."
      label="Go on to the test"
      onGo={() =>
        actions.record({ kind: 'chargeEnded', payload: { step: hand.step.key, fullSignal: false } })
      }
    />
  );
}

export function ChargeStepBody(props: ChargeProps) {
  if (props.charge.treatment)
    return <TreatmentBody {...props} treatment={props.charge.treatment(props.hand.context)} />;
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
