/** What every charge shares once it is on: a look at it, off when hot, on again when cool. */
import { Flame } from 'lucide-react';
import type { AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import type { BatteryType } from '@cork-ember/core/battery/types.ts';
import {
  cellDensitySpec,
  CHARGE_DENSITY,
  chargeSpecs,
  TEMPERATURE_SPEC,
  wakingSpecs,
} from '@cork-ember/core/runsheet/definition/fields.ts';
import type { ChargeValues } from '@cork-ember/core/runsheet/entries/events.ts';
import type { ChargeStep } from '@cork-ember/core/runsheet/definition/step.ts';
import { whenText } from '@cork-ember/core/clock/clockText.ts';
import { lastReadingOf } from '@cork-ember/core/runsheet/state/looks.ts';
import type { AskedReading } from '../readings/ReadingFields.tsx';
import { ReadingForm } from '../readings/ReadingForm.tsx';
import { useReadings } from '../readings/useReadings.ts';
import { Button } from '../ui/Button.tsx';
import { focusQuietly } from '../ui/focusQuietly.ts';
import { Notice } from '../ui/Notice.tsx';
import { Actions } from './Actions.tsx';
import type { StepActions } from './StepCard.tsx';

export interface ChargeProps {
  readonly hand: AtHand;
  readonly charge: ChargeStep;
  readonly now: number;
  readonly actions: StepActions;
  readonly job: string;
}

const cellId = (cell: number): string => `cellDensity${cell}`;

/** What a look at this charge may show. */
export function specsOf({ context, step }: AtHand, charge: ChargeStep): ReturnType<typeof chargeSpecs> {
  const specsFor = charge.treatment ? wakingSpecs : chargeSpecs;
  return specsFor(context.opened.type, step.charge?.currentA ?? 1);
}

/** What a look reads; a pilot cell's density where the battery can be opened, or that of every cell where it is asked. */
export function lookFields(
  type: BatteryType,
  specs: ReturnType<typeof chargeSpecs>,
  { asksCells = false, last }: { asksCells?: boolean; last?: ChargeValues | undefined } = {},
): AskedReading[] {
  return [
    {
      id: 'voltageV',
      spec: specs.voltageV,
      isOptional: false,
      quantity: 'voltage',
      last: last?.voltageV,
    },
    {
      id: 'currentA',
      spec: specs.currentA,
      isOptional: false,
      quantity: 'current',
      last: last?.currentA,
    },
    { id: 'tempC', spec: specs.tempC, isOptional: false, quantity: 'temperature', last: last?.tempC },
    ...(asksCells
      ? Array.from({ length: type.cells }, (_, index): AskedReading => ({
          id: cellId(index + 1),
          spec: cellDensitySpec(`Density, cell ${index + 1}`),
          isOptional: true,
          inCell: index + 1,
          last: last?.cellDensities?.[index],
        }))
      : []),
    ...(!asksCells && type.construction === 'flooded'
      ? [{ id: 'density', spec: CHARGE_DENSITY, isOptional: true, last: last?.density }]
      : []),
  ];
}

/** What the fields of a look say; the cells all of them or none: an hour without the hydrometer is a look like any other. */
export function lookValues(
  taken: Readonly<Record<string, number>>,
  { cells }: Pick<BatteryType, 'cells'>,
): ChargeValues {
  const { voltageV = 0, currentA = 0, tempC = 0, density } = taken;
  const ofCells = Array.from({ length: cells }, (_, index) => taken[cellId(index + 1)]).filter(
    (one) => one !== undefined,
  );
  return {
    voltageV,
    currentA,
    tempC,
    ...(density === undefined ? {} : { density }),
    ...(ofCells.length > 0 ? { cellDensities: ofCells } : {}),
  };
}

/** A look as it stands, in the fields it would be read into. */
export function typedLook({ cellDensities = [], ...read }: ChargeValues): Record<string, number> {
  const cells = cellDensities.map((density, index) => [cellId(index + 1), density] as const);
  return Object.fromEntries([...Object.entries(read), ...cells]);
}

/** What is needed of a charge before the shop closes, or what else stands beside its title. */
export function HandNote({ hand }: Pick<ChargeProps, 'hand'>) {
  return hand.note === undefined ? null : (
    <div className="mt-3">
      <Notice tone="caution">
        <p className="font-semibold">{hand.note}</p>
      </Notice>
    </div>
  );
}

export function Look({ hand, charge, actions, job, isQuiet = false }: ChargeProps & { isQuiet?: boolean }) {
  const { step, state, context } = hand;
  const { type } = context.opened;
  const fields = lookFields(type, specsOf(hand, charge), {
    asksCells: charge.treatment?.(context).asksCells ?? false,
    last: lastReadingOf(state, step.key),
  });
  const readings = useReadings(`${job} ${step.key} look`, fields);
  return (
    <ReadingForm
      readings={readings}
      fields={fields}
      job={job}
      type={type}
      answer="Record the look"
      isQuiet={isQuiet}
      onTake={({ values, source }) =>
        actions.record({
          kind: 'chargeRead',
          payload: { step: step.key, values: lookValues(values, type), source },
        })
      }
    />
  );
}

/** Beside the clock, where it is found without looking for it. */
export function HotOff({ hand, actions }: Pick<ChargeProps, 'hand' | 'actions'>) {
  return (
    <Button
      className="min-h-14 border-clay text-clay"
      onClick={() =>
        void actions.record({ kind: 'chargePaused', payload: { step: hand.step.key, reason: 'hot' } })
      }
    >
      <Flame aria-hidden className="size-5" /> Too hot to touch: charger is off
    </Button>
  );
}

export function TooHot({ hand, actions }: ChargeProps) {
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
            void actions.record({
              kind: 'chargePaused',
              payload: {
                step: hand.step.key,
                reason: hand.step.charge?.stopped ? 'stopped' : 'hot',
              },
            })
          }
        >
          Charger is off
        </Button>
      </Actions>
    </>
  );
}

export function Cooling({ hand, actions, job, now }: ChargeProps) {
  const { step, state, context } = hand;
  const fields: AskedReading[] = [
    {
      id: 'tempC',
      spec: TEMPERATURE_SPEC,
      isOptional: false,
      quantity: 'temperature',
      last: lastReadingOf(state, step.key)?.tempC,
    },
  ];
  const readings = useReadings(`${job} ${step.key} cooling`, fields);
  const below = context.threshold('hotResumeC').value;
  const { timeZone } = context.opened.hours;
  return (
    <ReadingForm
      readings={readings}
      fields={fields}
      job={job}
      answer="Charger is on again"
      onTake={({ values: { tempC = 0 } }) =>
        actions.record({ kind: 'chargeResumed', payload: { step: step.key, tempC } })
      }
    >
      <div className="mt-4">
        <Notice tone="caution">
          <p className="font-semibold">
            {hand.hold?.why} It goes on again below {below} °C.
          </p>
          <p>Look again at {whenText(hand.dueAt, now, timeZone)}.</p>
        </Notice>
      </div>
    </ReadingForm>
  );
}
