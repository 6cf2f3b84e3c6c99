import { STEP } from '@cork-ember/core/runsheet/definition/stepIds.ts';
import { useState, type FormEvent } from 'react';
import { loadTestFor } from '@cork-ember/core/battery/loadTest.ts';
import { onSix, type BatteryType } from '@cork-ember/core/battery/types.ts';
import type { AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import { drainAt } from '@cork-ember/core/runsheet/plan/capacityClock.ts';
import type { StepValues } from '@cork-ember/core/units/values.ts';
import { capacityTestA, capacityValues } from '@cork-ember/core/grading/grade.ts';
import {
  isAsked,
  optionsFor,
  type ChoiceField,
  type MeasureStep,
  type StepContext,
} from '@cork-ember/core/runsheet/definition/step.ts';
import { inSentence } from '@cork-ember/core/units/inSentence.ts';
import { givenBy, isShownBy } from '@cork-ember/core/observation/handInstruments.ts';
import { useShop } from '../api/queries.ts';
import { BatteryTop } from '../ui/BatteryTop.tsx';
import { Button } from '../ui/Button.tsx';
import { Options } from '../ui/Options.tsx';
import { Actions } from './Actions.tsx';
import { CapacityWatch, type WatchedDrain } from './CapacityWatch.tsx';
import { Denials } from './Denials.tsx';
import { LoadGuide } from './LoadGuide.tsx';
import { ReadingInputs, type AskedReading } from './ReadingInputs.tsx';
import type { StepActions } from './StepCard.tsx';
import { useReadings, type Readings } from './useReadings.ts';

interface MeasureForm {
  readonly choices: readonly ChoiceField[];
  readonly chosen: Readonly<Record<string, string>>;
  readonly choose: (field: string, option: string) => void;
  readonly fields: readonly AskedReading[];
  readonly readings: Readings;
  /** All values, choices included; undefined when something must be put right first. */
  readonly take: () => { values: StepValues; source: string } | undefined;
  /** Puts numbers into their fields, for a person to look at and record. */
  readonly fill: (values: StepValues) => void;
}

/** A measured step as a form; `initial` fills it for a correction. */
export function useMeasureForm(
  measure: MeasureStep,
  context: StepContext,
  initial: StepValues = {},
): MeasureForm {
  const { type } = context.opened;
  const { data: shop } = useShop();
  const held = shop?.handInstruments ?? {};
  const isOfBattery = ({ inCell = 1 }: { readonly inCell?: number | undefined }): boolean =>
    inCell <= type.cells;
  const offered = measure.fields
    .filter((field) => field.kind === 'choice')
    .filter(isOfBattery)
    .map((field) => ({ ...field, options: optionsFor(field, type) }));
  const [chosen, setChosen] = useState<Readonly<Record<string, string>>>(() =>
    Object.fromEntries(
      offered.map((field) => {
        // What is seen of a cell is never guessed for whoever looks.
        const first = field.inCell === undefined ? (field.options[0]?.id ?? '') : '';
        const given = givenBy(field.usual, held);
        const usual = field.options.some(({ id }) => id === given) ? given : first;
        return [field.id, String(initial[field.id] ?? usual)];
      }),
    ),
  );
  const choices = offered.filter((field) => isAsked(field, chosen));
  const fields = measure.fields.flatMap((field): AskedReading[] => {
    if (field.kind === 'choice') return [];
    if (!isOfBattery(field) || field.isFor?.(type) === false) return [];
    if (!isAsked(field, chosen)) return [];
    if (!isShownBy(field.shownBy, held) && initial[field.id] === undefined) return [];
    return [
      {
        id: field.id,
        spec: field.spec(context),
        isOptional: field.optional ?? false,
        quantity: field.quantity,
        inCell: field.inCell,
      },
    ];
  });
  const typed = Object.entries(initial).flatMap(([id, value]) =>
    typeof value === 'number' ? [[id, value] as const] : [],
  );
  const readings = useReadings(fields, Object.fromEntries(typed), true);
  const take = (): { values: StepValues; source: string } | undefined => {
    const taken = readings.take();
    const made = Object.fromEntries(
      choices.flatMap(({ id }) => (chosen[id] === '' ? [] : [[id, chosen[id] ?? '']])),
    );
    return taken && { values: { ...made, ...taken.values }, source: taken.source || 'keypad' };
  };
  const fill = (values: StepValues): void => {
    for (const { id } of fields) {
      const value = values[id];
      if (typeof value !== 'number') continue;
      readings.put(id, value);
      document.getElementById(id)?.focus();
    }
  };
  return {
    fill,
    choices,
    chosen,
    choose: (field, option) => setChosen((before) => ({ ...before, [field]: option })),
    fields,
    readings,
    take,
  };
}

/** What is seen of each cell, on the drawing of the battery; the usual answer for all of them at one press. */
function CellChoices({
  form,
  type,
}: {
  form: MeasureForm;
  type: Pick<BatteryType, 'cells' | 'positivePost'>;
}) {
  const ofCells = form.choices.filter(({ inCell }) => inCell !== undefined);
  const [first] = ofCells;
  const usual = first?.options[0];
  if (!first || !usual) return null;
  return (
    <div className="mt-4 px-5">
      <BatteryTop
        type={type}
        stacks
        cell={(cell) => {
          const field = ofCells.find(({ inCell }) => inCell === cell);
          return (
            field && (
              <Options
                legend={field.label}
                options={field.options}
                chosen={form.chosen[field.id]}
                onChoose={(option) => form.choose(field.id, option)}
                isNarrow
              />
            )
          );
        }}
      />
      <Button
        className="mt-2 min-h-13"
        onClick={() => ofCells.forEach(({ id }) => form.choose(id, usual.id))}
      >
        All cells: {inSentence(usual.label)}
      </Button>
    </div>
  );
}

export function MeasureFields({
  form,
  job,
  type,
}: {
  form: MeasureForm;
  job: string;
  type: Pick<BatteryType, 'cells' | 'positivePost'>;
}) {
  const ofBattery = form.choices.filter(({ inCell }) => inCell === undefined);
  return (
    <>
      {ofBattery.map((field) => (
        <fieldset key={field.id} className="mt-4 px-5">
          <legend className="font-medium">{field.label}</legend>
          <div className="mt-1 flex flex-wrap gap-2">
            {field.options.map((option) => (
              <label
                key={option.id}
                className="flex min-h-13 items-center gap-2 rounded-lg border-2 border-cork px-4 has-checked:border-verdigris has-checked:font-semibold"
              >
                <input
                  type="radio"
                  name={field.id}
                  checked={form.chosen[field.id] === option.id}
                  onChange={() => form.choose(field.id, option.id)}
                  className="size-5 accent-(--verdigris)"
                />
                {option.label}
              </label>
            ))}
          </div>
        </fieldset>
      ))}
      <CellChoices form={form} type={type} />
      {form.fields.length > 0 && (
        <ReadingInputs fields={form.fields} readings={form.readings} job={job} type={type} />
      )}
    </>
  );
}

/** The load test of this battery by the house's rule, with its limit at the warmth last read. */
function Guide({ hand: { context } }: { hand: AtHand }) {
  const { type, rules } = context.opened;
  const read = [
    context.valuesOf(STEP.proveOcv),
    context.valuesOf(STEP.testOcv),
    context.valuesOf(STEP.firstOcv),
  ];
  const tempC = read.map((values) => values['tempC']).find((value) => typeof value === 'number') ?? 25;
  const test = loadTestFor(type, rules.loadTest, tempC);
  return (
    <LoadGuide
      seconds={test.seconds}
      limit={`${test.currentA.toFixed(0)} A; ${test.floorV.toFixed(2)} V passes at ${tempC.toFixed(0)} °C.`}
    />
  );
}

/** The discharge a step watches, and what it leaves in the step's fields at its end. */
function drainOf({ step, context: { opened } }: AtHand, method: string): WatchedDrain | undefined {
  const { type } = opened;
  const drain = drainAt(step.stepId);
  if (!drain) return undefined;
  const endV = onSix(drain.endV, type);
  return step.stepId === STEP.proveCapacity
    ? {
        endV,
        amps: capacityTestA(method, type),
        method,
        found: (minutes) => capacityValues(method, minutes, type),
      }
    : {
        endV,
        amps: type.capacityAh / 10,
        found: (minutes, volts) => ({ minutes, endV: volts }),
      };
}

interface MeasureProps {
  readonly hand: AtHand;
  readonly measure: MeasureStep;
  readonly actions: StepActions;
  readonly job: string;
}

export function MeasureStepBody({ hand, measure, actions, job }: MeasureProps) {
  const { key } = hand.step;
  const form = useMeasureForm(measure, hand.context, measure.initial?.(hand.context));
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    const taken = form.take();
    if (taken) void actions.record({ kind: 'measured', payload: { step: key, ...taken } });
  };
  const drain = drainOf(hand, form.chosen['method'] ?? '');
  const isEmpty = form.fields.every((field) => form.readings.typed(field.id).text === '');
  return (
    <form onSubmit={submit} noValidate>
      {form.fields.some(({ quantity }) => quantity === 'loadVoltage') && <Guide hand={hand} />}
      {drain && (
        <CapacityWatch
          // Another way to measure it draws another current: another clock.
          key={drain.amps}
          hand={hand}
          drain={drain}
          actions={actions}
          job={job}
          onEnd={(minutes, volts) => form.fill(drain.found(minutes, volts))}
        />
      )}
      <MeasureFields form={form} job={job} type={hand.context.opened.type} />
      <Actions>
        <Button type="submit" tone="go" className="min-h-16 flex-1 text-lg">
          {isEmpty ? (measure.emptyLabel ?? 'Record') : 'Record'}
        </Button>
        {measure.skipLabel && (
          <Button
            className="min-h-16"
            onClick={() => void actions.record({ kind: 'skipped', payload: { step: key } })}
          >
            {measure.skipLabel}
          </Button>
        )}
        {hand.step.status === 'held' && <Denials denials={measure.denials} stepKey={key} actions={actions} />}
      </Actions>
    </form>
  );
}
