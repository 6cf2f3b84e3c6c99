/** A capacity test while it runs: a look now and then, and what it will probably come to. */
import { useState } from 'react';
import type { Interval } from '@cork-ember/core/belief/figures.ts';
import { voltageSpec } from '@cork-ember/core/runsheet/fields.ts';
import type { AtHand } from '@cork-ember/core/runsheet/atHand.ts';
import { capacityShareOf, capacityTestA, capacityValues, gradeOf } from '@cork-ember/core/runsheet/grade.ts';
import { useReserve } from '../belief/useReserve.ts';
import { Button } from '../ui/Button.tsx';
import { ReadingInputs, type AskedReading } from './ReadingInputs.tsx';
import type { StepActions } from './StepCard.tsx';
import { useReadings } from './useReadings.ts';

const percent = (share: number): string => `${(share * 100).toFixed(0)} %`;

function Forecast({
  hand: { context },
  method,
  minutes,
}: {
  hand: AtHand;
  method: string;
  minutes: Interval;
}) {
  const { type } = context.opened;
  const tempC = context.valuesOf('prove-ocv')['tempC'];
  const shareOf = (min: number): number =>
    capacityShareOf(capacityValues(method, min, type), type, typeof tempC === 'number' ? tempC : undefined) ??
    0;
  const mark = (share: number): string => gradeOf({ capacityShare: share, heldWeek: true }).grade;
  const [low, middle, high] = [minutes.low, minutes.middle, minutes.high].map(shareOf) as [
    number,
    number,
    number,
  ];
  const grades = [...new Set([mark(high), mark(low)])].join(' to ');
  return (
    <p role="status" className="mt-2">
      It will probably give <strong className="reading">{minutes.middle.toFixed(0)} min</strong> (
      <span className="reading">{minutes.low.toFixed(0)}</span> to{' '}
      <span className="reading">{minutes.high.toFixed(0)}</span>): {percent(middle)} of the rating,{' '}
      {percent(low)} to {percent(high)}. By capacity that is grade {grades}.
    </p>
  );
}

export function CapacityWatch({
  hand,
  method,
  actions,
  job,
}: {
  hand: AtHand;
  method: string;
  actions: StepActions;
  job: string;
}) {
  const { state } = hand;
  const { type } = state.opened;
  const amps = capacityTestA(method, type);
  const [isOpen, setIsOpen] = useState(false);
  const last = state.evidence?.at(-1)?.reading;
  const isRunning = last?.kind === 'drain' && last.amps === amps;
  const minutes = useReserve(state, isOpen || isRunning ? amps : undefined);
  const fields: readonly AskedReading[] = [
    {
      id: 'minute',
      isOptional: false,
      spec: {
        label: 'Minutes so far',
        unit: 'min',
        decimals: 0,
        possible: { min: 0, max: 3000 },
        plausible: { min: 1, max: Math.ceil((type.capacityAh / amps) * 72) },
      },
    },
    {
      id: 'volts',
      isOptional: false,
      quantity: 'voltage',
      spec: voltageSpec('Voltage under the test', [9, 13], type),
    },
  ];
  const readings = useReadings(fields);
  const look = async (): Promise<void> => {
    const taken = readings.take();
    if (!taken) return;
    const { minute = 0, volts = 0 } = taken.values;
    const isKept = await actions.record({
      kind: 'evidenced',
      payload: { reading: { kind: 'drain', amps, minute, volts } },
    });
    if (isKept) for (const { id } of fields) readings.type(id, '');
  };
  return (
    <details
      open={isRunning}
      onToggle={({ currentTarget }) => setIsOpen(currentTarget.open)}
      className="mx-5 mt-4 rounded-lg border border-line bg-paper"
    >
      <summary className="flex min-h-14 cursor-pointer items-center px-5 font-medium">
        While it runs: a look, and what it will come to
      </summary>
      <div
        className="border-t border-line pb-4"
        // Enter takes the look in; the form around it holds the result of the whole test.
        onKeyDown={(event) => {
          if (event.key !== 'Enter' || !(event.target instanceof HTMLInputElement)) return;
          event.preventDefault();
          void look();
        }}
      >
        <div className="px-5">
          {minutes ? (
            <Forecast hand={hand} method={method} minutes={minutes} />
          ) : (
            <p className="mt-2 text-soft">Candidate batteries go through this test …</p>
          )}
        </div>
        <ReadingInputs fields={fields} readings={readings} job={job} type={type} />
        <div className="px-5 pt-3">
          <Button className="min-h-14 w-full" onClick={() => void look()}>
            Take the look in
          </Button>
        </div>
      </div>
    </details>
  );
}
