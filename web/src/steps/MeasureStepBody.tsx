import { useState, type FormEvent } from 'react';
import { loadTestFor } from '@cork-ember/core/battery/loadTest.ts';
import type { BatteryType } from '@cork-ember/core/battery/types.ts';
import type { AtHand } from '@cork-ember/core/runsheet/atHand.ts';
import type { StepValues } from '@cork-ember/core/runsheet/events.ts';
import {
  isAsked,
  optionsFor,
  type ChoiceField,
  type MeasureStep,
  type StepContext,
} from '@cork-ember/core/runsheet/step.ts';
import { Button } from '../ui/Button.tsx';
import { Actions } from './Actions.tsx';
import { CapacityWatch } from './CapacityWatch.tsx';
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
  const choices = measure.fields
    .filter((field) => field.kind === 'choice')
    .map((field) => ({ ...field, options: optionsFor(field, context.opened.type) }));
  const [chosen, setChosen] = useState<Readonly<Record<string, string>>>(() =>
    Object.fromEntries(
      choices.map((field) => [field.id, String(initial[field.id] ?? field.options[0]?.id ?? '')]),
    ),
  );
  const fields = measure.fields.flatMap((field): AskedReading[] => {
    if (field.kind === 'choice') return [];
    if (field.inCell !== undefined && field.inCell > context.opened.type.cells) return [];
    if (field.isFor?.(context.opened.type) === false) return [];
    if (!isAsked(field, chosen)) return [];
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
    typeof value === 'number' ? [[id, { text: String(value) }] as const] : [],
  );
  const readings = useReadings(fields, Object.fromEntries(typed));
  const take = (): { values: StepValues; source: string } | undefined => {
    const taken = readings.take();
    return taken && { values: { ...chosen, ...taken.values }, source: taken.source || 'keypad' };
  };
  const fill = (values: StepValues): void => {
    for (const { id, spec } of fields) {
      const value = values[id];
      if (typeof value !== 'number') continue;
      readings.type(id, value.toFixed(spec.decimals));
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

export function MeasureFields({
  form,
  job,
  type,
}: {
  form: MeasureForm;
  job: string;
  type: Pick<BatteryType, 'cells' | 'positivePost'>;
}) {
  return (
    <>
      {form.choices.map((field) => (
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
      <ReadingInputs fields={form.fields} readings={form.readings} job={job} type={type} />
    </>
  );
}

/** The load test of this battery by the house's rule, with its limit at the warmth last read. */
function Guide({ hand: { context } }: { hand: AtHand }) {
  const { type, rules } = context.opened;
  const read = [context.valuesOf('prove-ocv'), context.valuesOf('test-ocv'), context.valuesOf('first-ocv')];
  const tempC = read.map((values) => values['tempC']).find((value) => typeof value === 'number') ?? 25;
  const test = loadTestFor(type, rules.loadTest, tempC);
  return (
    <LoadGuide
      seconds={test.seconds}
      limit={`${test.currentA.toFixed(0)} A; ${test.floorV.toFixed(2)} V passes at ${tempC.toFixed(0)} °C.`}
    />
  );
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
  const isEmpty = form.fields.every((field) => form.readings.typed(field.id).text === '');
  return (
    <form onSubmit={submit} noValidate>
      {form.fields.some(({ quantity }) => quantity === 'loadVoltage') && <Guide hand={hand} />}
      {hand.step.stepId === 'prove-capacity' && (
        <CapacityWatch
          hand={hand}
          method={form.chosen['method'] ?? ''}
          actions={actions}
          job={job}
          onEnd={form.fill}
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
