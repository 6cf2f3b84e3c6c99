/** A discharge while it runs: a look now and then, and what a capacity test will probably come to. */
import { percentText } from '@cork-ember/core/units/percent.ts';
import { STEP } from '@cork-ember/core/runsheet/definition/stepIds.ts';
import { useState } from 'react';
import type { Interval } from '@cork-ember/core/belief/figures.ts';
import type { AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import {
  runningTest,
  type DrawnDown,
  type RunningTest,
} from '@cork-ember/core/runsheet/plan/capacityClock.ts';
import { voltageSpec } from '@cork-ember/core/runsheet/definition/fields.ts';
import { capacityShareOf, capacityValues, gradeOf } from '@cork-ember/core/grading/grade.ts';
import { numberOf } from '@cork-ember/core/units/values.ts';
import { whenText } from '@cork-ember/core/clock/clockText.ts';
import { useNow } from '../api/clock.ts';
import { useReserve } from '../judgement/useReserve.ts';
import { moveOnEnter } from '../readings/activeField.ts';
import { ReadingFields, type AskedReading } from '../readings/ReadingFields.tsx';
import { useReadings } from '../readings/useReadings.ts';
import { Button } from '../ui/Button.tsx';
import type { StepActions } from './StepCard.tsx';

const MINUTE = 60_000;

/** Where it ends, and when by the shop's clock, once it runs. */
function Forecast({
  hand: { context },
  method,
  minutes,
  running,
  now,
}: {
  hand: AtHand;
  method: string;
  minutes: Interval;
  running: RunningTest | undefined;
  now: number;
}) {
  const { type, hours } = context.opened;
  const tempC = context.valuesOf(STEP.proveOcv)['tempC'];
  const shareOf = (min: number): number =>
    capacityShareOf(capacityValues(method, min, type), type, numberOf(tempC)) ?? 0;
  const mark = (share: number): string =>
    gradeOf({ isRated: false, capacityShare: share, day: 'held', week: 'held' }).grade;
  const [low, middle, high] = [minutes.low, minutes.middle, minutes.high].map(shareOf) as [
    number,
    number,
    number,
  ];
  const grades = [...new Set([mark(high), mark(low)])].join(' to ');
  const when = (min: number): string =>
    whenText(now + (min - (running?.minutes ?? 0)) * MINUTE, now, hours.timeZone);
  return (
    <p role="status" className="mt-2">
      {running && minutes.high > running.minutes && (
        <>
          {minutes.low > running.minutes ? (
            <>
              Be there from <strong className="reading">{when(minutes.low)}</strong>
            </>
          ) : (
            'Stay with it'
          )}
          : it is over by about <strong className="reading">{when(minutes.high)}</strong>.{' '}
        </>
      )}
      It will probably give{' '}
      <strong className="reading whitespace-nowrap">{minutes.middle.toFixed(0)} min</strong> (
      <span className="reading">{minutes.low.toFixed(0)}</span> to{' '}
      <span className="reading">{minutes.high.toFixed(0)}</span>): {percentText(middle)} of the rating,{' '}
      {percentText(low)} to {percentText(high)}. By capacity that is grade {grades}.
    </p>
  );
}

/** How long it has run; at its end, what it gave. */
function Clock({
  running: { minutes, lastV, lastMinute },
  isOver,
  endV,
  onEnd,
}: {
  running: RunningTest;
  isOver: boolean;
  endV: number;
  onEnd: (minutes: number) => void;
}) {
  return (
    <div className="mt-3 flex flex-wrap items-center gap-3 px-5">
      {isOver ? (
        <p role="alert" className="min-w-48 flex-1 font-bold text-clay">
          <span className="reading whitespace-nowrap">{lastV.toFixed(2)} V</span> at{' '}
          <span className="reading whitespace-nowrap">{lastMinute.toFixed(0)} min</span>: it is at its end.
          Load off now, and back on charge at once.
        </p>
      ) : (
        <p className="min-w-48 flex-1">
          On for <strong className="reading text-xl whitespace-nowrap">{minutes.toFixed(0)} min</strong>, last
          look <span className="reading whitespace-nowrap">{lastV.toFixed(2)} V</span> at{' '}
          <span className="reading whitespace-nowrap">{lastMinute.toFixed(0)} min</span>.
        </p>
      )}
      <Button className="min-h-14" onClick={() => onEnd(isOver ? lastMinute : minutes)}>
        {isOver ? `It gave ${lastMinute.toFixed(0)} min` : `It is at ${endV.toFixed(2)} V now, load off`}
      </Button>
    </div>
  );
}

export interface WatchedDrain extends DrawnDown {
  /** How capacity is measured by it; a cycle measures none. */
  readonly method?: string;
}

export function CapacityWatch({
  hand,
  drain,
  actions,
  job,
  onEnd,
}: {
  hand: AtHand;
  drain: WatchedDrain;
  actions: StepActions;
  job: string;
  /** What it gave, once it is at its end. */
  onEnd: (minutes: number, volts: number) => void;
}) {
  const { state } = hand;
  const { type } = state.opened;
  const now = useNow();
  const { amps, endV, method } = drain;
  const [isOpen, setIsOpen] = useState(false);
  const [isByHand, setIsByHand] = useState(false);
  const running = runningTest(state, amps, now);
  const isOver = running !== undefined && running.lastV <= endV;
  const minutes = useReserve(state, method !== undefined && (isOpen || running) ? amps : undefined);
  const minute: AskedReading = {
    id: 'minute',
    isOptional: false,
    spec: {
      label: 'Minutes so far',
      unit: 'min',
      decimals: 0,
      possible: { min: 0, max: 3000 },
      plausible: { min: 0, max: Math.ceil((type.capacityAh / amps) * 72) },
    },
  };
  const fields: readonly AskedReading[] = [
    {
      id: 'volts',
      isOptional: false,
      quantity: 'voltage',
      spec: voltageSpec('Voltage under the test', [9, 13], type),
    },
    ...(!running || isByHand ? [minute] : []),
  ];
  const readings = useReadings(`${job} ${hand.step.key} drain`, fields, { minute: 0 });
  const look = async (): Promise<void> => {
    const taken = readings.take();
    if (!taken) return;
    const { minute: counted, volts = 0 } = taken.values;
    const at = counted ?? Math.round(running?.minutes ?? 0);
    const isKept = await actions.record({
      kind: 'evidenced',
      payload: { reading: { kind: 'drain', amps, minute: at, volts } },
    });
    if (!isKept) return;
    readings.clear();
    setIsByHand(false);
    if (volts <= endV) onEnd(at, volts);
  };
  return (
    <details
      open={running !== undefined}
      onToggle={({ currentTarget }) => setIsOpen(currentTarget.open)}
      className="mx-5 mt-4 rounded-lg border border-line bg-paper"
    >
      <summary className="flex min-h-14 cursor-pointer items-center px-5 font-medium">
        {method === undefined
          ? 'While it runs: a look now and then'
          : 'While it runs: a look, and what it will come to'}
      </summary>
      <fieldset
        data-readings=""
        aria-label="A look while it runs"
        className="border-t border-line pb-4"
        // Enter takes the look in; the form around it holds the result of the whole test.
        onKeyDown={(event) => {
          if (event.key !== 'Enter' || !(event.target instanceof HTMLInputElement)) return;
          event.stopPropagation();
          moveOnEnter(event);
          if (event.isDefaultPrevented()) return;
          event.preventDefault();
          void look();
        }}
      >
        {running && (
          <Clock
            running={running}
            isOver={isOver}
            endV={endV}
            onEnd={(at) => onEnd(at, isOver ? running.lastV : endV)}
          />
        )}
        {!isOver && (
          <>
            {method !== undefined && (
              <div className="px-5">
                {minutes ? (
                  <Forecast hand={hand} method={method} minutes={minutes} running={running} now={now} />
                ) : (
                  <p className="mt-2 text-soft">Candidate batteries go through this test …</p>
                )}
              </div>
            )}
            <ReadingFields fields={fields} readings={readings} job={job} type={type} isFirst={false}>
              <Button className="min-h-14 w-full" onClick={() => void look()}>
                {running ? 'Take the look in' : 'Load is on: start its clock'}
              </Button>
              {running && !isByHand && (
                <Button className="w-full" onClick={() => setIsByHand(true)}>
                  It was read at another minute
                </Button>
              )}
            </ReadingFields>
          </>
        )}
      </fieldset>
    </details>
  );
}
