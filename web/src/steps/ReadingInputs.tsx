/** Fields for readings beside a keypad big enough for gloves; an instrument fills one at a tap. */
import { inSentence } from '@cork-ember/core/units/inSentence.ts';
import { Gauge } from 'lucide-react';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { toast } from 'sonner';
import type { BatteryType } from '@cork-ember/core/battery/types.ts';
import type { InstrumentQuantity } from '@cork-ember/core/observation/instrument.ts';
import { rangeText } from '@cork-ember/core/units/reading.ts';
import { sentenceOf } from '../api/client.ts';
import { pocket, usePocket } from '../api/pocket.ts';
import { readFrom, useInstruments } from '../api/queries.ts';
import { BatteryTop } from '../ui/BatteryTop.tsx';
import { Button } from '../ui/Button.tsx';
import { focusQuietly } from '../ui/focusQuietly.ts';
import { Keypad } from './Keypad.tsx';
import type { ReadingField, Readings } from './useReadings.ts';

export interface AskedReading extends ReadingField {
  readonly quantity?: InstrumentQuantity | undefined;
  /** It stands in the drawing of the battery, in this cell. */
  readonly inCell?: number | undefined;
}

interface InputsProps {
  readonly fields: readonly AskedReading[];
  readonly readings: Readings;
  readonly job: string;
  /** Needed where fields stand in cells. */
  readonly type?: Pick<BatteryType, 'cells' | 'positivePost'>;
  /** What stands under the fields, beside the keypad. */
  readonly children?: ReactNode;
}

function Question({ field, readings }: { field: AskedReading; readings: Readings }) {
  const typed = readings.typed(field.id);
  if (typed.sentence === undefined) return null;
  const { suggestion, keepable } = typed;
  return (
    <div
      id={`${field.id}-says`}
      role={typed.isProblem ? 'alert' : 'status'}
      className={`mt-1.5 ${typed.isProblem ? 'text-clay' : 'text-soft'}`}
    >
      <p>{typed.sentence}</p>
      <div className="mt-1 flex flex-wrap gap-2">
        {suggestion !== undefined && (
          <Button onClick={() => readings.put(field.id, suggestion)}>
            Yes, {suggestion.toFixed(field.spec.decimals)} {field.spec.unit}
          </Button>
        )}
        {keepable !== undefined && (
          <Button onClick={() => readings.keep(field.id)}>
            Keep {keepable} {field.spec.unit}, I looked twice
          </Button>
        )}
      </div>
    </div>
  );
}

/** kg/L and g/cm³ are the same. */
const sameUnit = (one: string, other: string): boolean =>
  one === other || (one === 'kg/L' && other === 'g/cm³');

interface FieldProps {
  readonly field: AskedReading;
  readonly readings: Readings;
  readonly isActive: boolean;
  readonly onFocus: () => void;
  readonly keep: (element: HTMLInputElement | null) => void;
}

/** The box a number is typed into. */
function Box({
  field,
  readings,
  isActive,
  onFocus,
  keep,
  isSmall = false,
}: FieldProps & { isSmall?: boolean }) {
  const typed = readings.typed(field.id);
  return (
    <input
      id={field.id}
      ref={keep}
      value={typed.text}
      inputMode="decimal"
      autoComplete="off"
      maxLength={20}
      aria-invalid={typed.isProblem === true}
      aria-describedby={typed.sentence === undefined ? undefined : `${field.id}-says`}
      onFocus={onFocus}
      onChange={(event) => readings.type(field.id, event.target.value)}
      className={`reading w-full min-w-0 bg-transparent font-semibold outline-none ${
        isSmall
          ? `min-h-12 rounded border-2 text-center text-[15px] ${typed.isProblem ? 'border-clay' : isActive ? 'border-ember' : 'border-cork'}`
          : 'min-h-14 px-3 text-2xl'
      }`}
    />
  );
}

/** A field of its own row, with what is expected under it and an instrument beside it. */
function Row(
  props: FieldProps & {
    pull: ((quantity: InstrumentQuantity) => void) | undefined;
    instrument: string | undefined;
  },
) {
  const { field, readings, isActive, pull, instrument } = props;
  const pocketed = usePocket();
  const typed = readings.typed(field.id);
  const { quantity } = field;
  return (
    <div>
      <label htmlFor={field.id} className="font-medium">
        {field.spec.label}
        {field.isOptional && <span className="font-normal text-soft"> (may stay empty)</span>}
      </label>
      <div className="mt-1 flex gap-2">
        <div
          className={`flex min-w-0 flex-1 items-center rounded-lg border-2 bg-card ${typed.isProblem ? 'border-clay' : isActive ? 'border-ember' : 'border-cork'}`}
        >
          <Box {...props} />
          <span className="reading pr-3 text-lg text-soft">{field.spec.unit}</span>
        </div>
        {quantity && instrument !== undefined && pull && (
          <Button
            className="min-h-14"
            aria-label={`Read ${inSentence(field.spec.label)} from the ${inSentence(instrument)}`}
            onClick={() => pull(quantity)}
          >
            <Gauge aria-hidden className="size-5" /> Read
          </Button>
        )}
      </div>
      {typed.sentence === undefined && (
        <p className="mt-1 text-sm text-soft">
          {typed.source
            ? `from the ${inSentence(typed.source)}`
            : `expected ${rangeText(field.spec, field.spec.plausible)}`}
        </p>
      )}
      {pocketed && sameUnit(pocketed.unit, field.spec.unit) && (
        <Button
          className="mt-1.5"
          onClick={() => {
            readings.put(field.id, pocketed.value, 'Reckoner');
            pocket(undefined);
          }}
        >
          From the reckoner: {pocketed.value.toFixed(field.spec.decimals)} {field.spec.unit}
        </Button>
      )}
      <Question field={field} readings={readings} />
    </div>
  );
}

/** Fields that stand in the cells of the battery, and under the drawing whatever must be asked about them. */
function InCells({
  fields,
  readings,
  type,
  propsOf,
}: {
  fields: readonly AskedReading[];
  readings: Readings;
  type: Pick<BatteryType, 'cells' | 'positivePost'>;
  propsOf: (field: AskedReading) => FieldProps;
}) {
  const [first] = fields;
  return (
    <div className="w-full">
      <BatteryTop
        type={type}
        cell={(number) => {
          const field = fields.find(({ inCell }) => inCell === number);
          return (
            field && (
              <>
                <label htmlFor={field.id} className="sr-only">
                  {field.spec.label}
                </label>
                <Box {...propsOf(field)} isSmall />
              </>
            )
          );
        }}
      />
      {first && (
        <p className="mt-1 text-sm text-soft">
          {first.spec.unit}, expected {rangeText(first.spec, first.spec.plausible)}
        </p>
      )}
      {fields.map((field) => (
        <Question key={field.id} field={field} readings={readings} />
      ))}
    </div>
  );
}

export function ReadingInputs({ fields, readings, job, type, children }: InputsProps) {
  const { data: instruments = [] } = useInstruments();
  const [active, setActive] = useState(fields[0]?.id ?? '');
  const inputs = useRef(new Map<string, HTMLInputElement>());
  const firstId = fields[0]?.id;
  useEffect(() => {
    if (firstId !== undefined) focusQuietly(inputs.current.get(firstId) ?? null);
  }, [firstId]);
  const current = fields.some((field) => field.id === active) ? active : (fields[0]?.id ?? '');
  const press = (key: string): void => {
    const { text } = readings.typed(current);
    readings.type(current, key === 'back' ? text.slice(0, -1) : `${text}${key}`);
    inputs.current.get(current)?.focus();
  };
  const readerOf = (quantity: InstrumentQuantity | undefined) =>
    quantity && instruments.find((one) => one.quantities.includes(quantity));
  const pull = async (field: AskedReading, quantity: InstrumentQuantity): Promise<void> => {
    const instrument = readerOf(quantity);
    if (!instrument) return;
    try {
      const reading = await readFrom(instrument, quantity, job);
      readings.put(field.id, reading.value, reading.instrument);
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  const readable = fields.flatMap((field) => (field.quantity ? [{ field, quantity: field.quantity }] : []));
  const hasInstrument = readable.some(({ quantity }) => readerOf(quantity));
  const pullAll = async (): Promise<void> => {
    for (const { field, quantity } of readable) await pull(field, quantity);
  };
  const propsOf = (field: AskedReading): FieldProps => ({
    field,
    readings,
    isActive: current === field.id,
    onFocus: () => setActive(field.id),
    keep: (element) => {
      if (element) inputs.current.set(field.id, element);
    },
  });
  const inCells = type ? fields.filter(({ inCell }) => inCell !== undefined) : [];
  return (
    <div className="mt-4 flex flex-wrap gap-5 px-5">
      {type && inCells.length > 0 && (
        <InCells fields={inCells} readings={readings} type={type} propsOf={propsOf} />
      )}
      <div className="min-w-[min(16rem,100%)] flex-1 space-y-3">
        {readable.length > 1 && hasInstrument && (
          <Button className="min-h-14 w-full" onClick={() => void pullAll()}>
            <Gauge aria-hidden className="size-5" /> Read all {readable.length === 2 ? 'two' : 'three'}
          </Button>
        )}
        {fields
          .filter((field) => !inCells.includes(field))
          .map((field) => (
            <Row
              key={field.id}
              {...propsOf(field)}
              pull={(quantity) => void pull(field, quantity)}
              instrument={readerOf(field.quantity)?.name}
            />
          ))}
        {children}
      </div>
      <Keypad onPress={press} />
    </div>
  );
}
