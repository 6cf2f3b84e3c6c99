import { STEP } from '@cork-ember/core/runsheet/definition/stepIds.ts';
import { loadTestFor } from '@cork-ember/core/battery/loadTest.ts';
import type { BatteryType } from '@cork-ember/core/battery/types.ts';
import type { AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import { drawnDownAt } from '@cork-ember/core/runsheet/plan/capacityClock.ts';
import type { StepValues } from '@cork-ember/core/units/values.ts';
import {
  isAsked,
  optionsFor,
  type ChoiceField,
  type MeasureStep,
  type StepContext,
} from '@cork-ember/core/runsheet/definition/step.ts';
import { inSentence } from '@cork-ember/core/units/inSentence.ts';
import { givenBy, isShownBy } from '@cork-ember/core/observation/handInstruments.ts';
import { lastNumbers } from '@cork-ember/core/runsheet/state/lastRead.ts';
import { useShop } from '../api/queries.ts';
import type { AskedReading } from '../readings/ReadingFields.tsx';
import { ReadingForm } from '../readings/ReadingForm.tsx';
import { useReadings, type Readings, type TakenReadings } from '../readings/useReadings.ts';
import { BatteryTop } from '../ui/BatteryTop.tsx';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import type { WatchedDrain } from './CapacityWatch.tsx';
import { Denials } from './Denials.tsx';
import { LoadGuide } from './LoadGuide.tsx';
import type { StepActions } from './StepCard.tsx';
import { later } from '../ui/later.tsx';

const CapacityWatch = later(async () => (await import('./CapacityWatch.tsx')).CapacityWatch);

interface MeasureForm {
  readonly choices: readonly ChoiceField[];
  readonly chosen: Readonly<Record<string, string>>;
  readonly choose: (field: string, option: string) => void;
  readonly fields: readonly AskedReading[];
  readonly readings: Readings;
  /** What was read and chosen, as it is recorded. */
  readonly valuesOf: (taken: TakenReadings) => { values: StepValues; source: string };
  /** Puts numbers into their fields, for a person to look at and record. */
  readonly fill: (values: StepValues) => void;
}

interface Measured {
  /** The form's name: what is typed is kept under it. */
  readonly name: string;
  readonly measure: MeasureStep;
  readonly context: StepContext;
  /** What was read of the battery before, by field. */
  readonly last: Readonly<Record<string, number>>;
  /** What stands in it to begin with. */
  readonly initial?: StepValues;
}

/** A measured step as a form; `initial` fills it for a correction. */
export function useMeasureForm({ name, measure, context, last, initial = {} }: Measured): MeasureForm {
  const { type } = context.opened;
  const { data: shop } = useShop();
  const held = shop?.handInstruments ?? {};
  const isOfBattery = ({ inCell = 1 }: { readonly inCell?: number | undefined }): boolean =>
    inCell <= type.cells;
  const offered = measure.fields
    .filter((field) => field.kind === 'choice')
    .filter(isOfBattery)
    .map((field) => ({ ...field, options: optionsFor(field, type) }));
  const typed = Object.entries(initial).flatMap(([id, value]) =>
    typeof value === 'number' ? [[id, value] as const] : [],
  );
  const numbers = measure.fields.flatMap((field): AskedReading[] => {
    if (field.kind === 'choice') return [];
    if (!isOfBattery(field) || field.isFor?.(type) === false) return [];
    if (!isShownBy(field.shownBy, held) && initial[field.id] === undefined) return [];
    return [
      {
        id: field.id,
        spec: field.spec(context),
        isOptional: field.optional ?? false,
        quantity: field.quantity,
        inCell: field.inCell,
        last: last[field.id],
      },
    ];
  });
  const readings = useReadings(name, numbers, Object.fromEntries(typed), true);
  const chosen = Object.fromEntries(
    offered.map((field) => {
      // What is seen of a cell is never guessed for whoever looks.
      const first = field.inCell === undefined ? (field.options[0]?.id ?? '') : '';
      const given = givenBy(field.usual, held);
      const usual = field.options.some(({ id }) => id === given) ? given : first;
      return [field.id, readings.choice(field.id) ?? String(initial[field.id] ?? usual)];
    }),
  );
  const asked = new Set(measure.fields.filter((field) => isAsked(field, chosen)).map(({ id }) => id));
  const choices = offered.filter(({ id }) => asked.has(id));
  const valuesOf = ({ values, source }: TakenReadings): { values: StepValues; source: string } => {
    const made = Object.fromEntries(
      choices.flatMap(({ id }) => (chosen[id] === '' ? [] : [[id, chosen[id] ?? '']])),
    );
    return { values: { ...made, ...values }, source: source || 'keypad' };
  };
  const fields = numbers.filter(({ id }) => asked.has(id));
  const fill = (values: StepValues): void => {
    for (const { id } of fields) {
      const value = values[id];
      if (typeof value === 'number') readings.put(id, value);
    }
  };
  return { fill, choices, chosen, choose: readings.choose, fields, readings, valuesOf };
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
              <Choice
                legend={field.label}
                options={field.options}
                chosen={form.chosen[field.id]}
                onChoose={(option) => form.choose(field.id, option)}
                kind="cell"
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

/** What is chosen in a measured step, before its numbers. */
export function MeasureChoices({
  form,
  type,
}: {
  form: MeasureForm;
  type: Pick<BatteryType, 'cells' | 'positivePost'>;
}) {
  return (
    <>
      {form.choices
        .filter(({ inCell }) => inCell === undefined)
        .map((field) => (
          <div key={field.id} className="mt-4 px-5">
            <Choice
              legend={field.label}
              isNamed
              options={field.options}
              chosen={form.chosen[field.id]}
              onChoose={(option) => form.choose(field.id, option)}
            />
          </div>
        ))}
      <CellChoices form={form} type={type} />
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
  const drawn = drawnDownAt(step.stepId, opened.type, method);
  return drawn && step.stepId === STEP.proveCapacity ? { ...drawn, method } : drawn;
}

interface MeasureProps {
  readonly hand: AtHand;
  readonly measure: MeasureStep;
  readonly actions: StepActions;
  readonly job: string;
}

export function MeasureStepBody({ hand, measure, actions, job }: MeasureProps) {
  const { context, state } = hand;
  const { key } = hand.step;
  const { type } = context.opened;
  const initial = measure.initial?.(context);
  const form = useMeasureForm({
    name: `${job} ${key}`,
    measure,
    context,
    last: lastNumbers(state),
    ...(initial ? { initial } : {}),
  });
  const drain = drainOf(hand, form.chosen['method'] ?? '');
  const isEmpty = form.fields.every((field) => form.readings.typed(field.id).text === '');
  return (
    <ReadingForm
      readings={form.readings}
      fields={form.fields}
      job={job}
      type={type}
      answer={isEmpty ? (measure.emptyLabel ?? 'Record') : 'Record'}
      onTake={(taken) =>
        actions.record({ kind: 'measured', payload: { step: key, ...form.valuesOf(taken) } })
      }
      others={
        <>
          {measure.skipLabel && (
            <Button
              className="min-h-16"
              onClick={() => void actions.record({ kind: 'skipped', payload: { step: key } })}
            >
              {measure.skipLabel}
            </Button>
          )}
          {hand.step.status === 'held' && (
            <Denials denials={measure.denials} stepKey={key} actions={actions} />
          )}
        </>
      }
    >
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
      <MeasureChoices form={form} type={type} />
    </ReadingForm>
  );
}
