/** Fields for readings, several in a row; an instrument fills one at a tap. */
import { inSentence } from '@cork-ember/core/units/inSentence.ts';
import { Gauge } from 'lucide-react';
import { useEffect, useId, type ReactNode } from 'react';
import { sayTrouble } from '../ui/say.ts';
import type { BatteryType } from '@cork-ember/core/battery/types.ts';
import type { InstrumentQuantity } from '@cork-ember/core/observation/instrument.ts';
import { rangeText } from '@cork-ember/core/units/reading.ts';
import { sentenceOf } from '../api/client.ts';
import { pocket, usePocket } from '../api/pocket.ts';
import { readFrom, useInstruments } from '../api/queries.ts';
import { typedHere } from '../region/shopRegion.ts';
import { BatteryTop } from '../ui/BatteryTop.tsx';
import { Button } from '../ui/Button.tsx';
import { focusQuietly } from '../ui/focusQuietly.ts';
import { ReadingBox } from './ReadingBox.tsx';
import type { ReadingField, Readings } from './useReadings.ts';

export interface AskedReading extends ReadingField {
  readonly quantity?: InstrumentQuantity | undefined;
  /** It stands in the drawing of the battery, in this cell. */
  readonly inCell?: number | undefined;
  /** What was read of it last, in the core's unit. */
  readonly last?: number | undefined;
}

/** Names of this form's fields on the page: two forms may ask for the same. */
type IdOf = (id: string) => string;

/** What must be asked about a reading, or why it cannot be. */
export function Question({ field, readings, idOf }: { field: AskedReading; readings: Readings; idOf: IdOf }) {
  const typed = readings.typed(field.id);
  if (typed.sentence === undefined) return null;
  const { suggestion, keepable } = typed;
  return (
    <div
      id={`${idOf(field.id)}-says`}
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
  readonly idOf: IdOf;
}

function Box({
  field,
  readings,
  idOf,
  isSmall = false,
  isNarrow = false,
}: FieldProps & { isSmall?: boolean; isNarrow?: boolean }) {
  const { text, isProblem = false, sentence } = readings.typed(field.id);
  const { label, unit, decimals } = field.spec;
  const id = idOf(field.id);
  const border = `rounded border-2 ${isProblem ? 'border-clay' : 'border-cork focus:border-ember'}`;
  return (
    <ReadingBox
      id={id}
      value={text}
      label={label}
      unit={unit}
      last={field.last === undefined ? undefined : typedHere(field.last, unit, decimals)}
      required={!field.isOptional}
      aria-invalid={isProblem}
      aria-describedby={sentence === undefined ? undefined : `${id}-says`}
      onType={(next) => readings.type(field.id, next)}
      className={
        isSmall
          ? `min-h-12 text-center text-[15px] ${border}`
          : `min-h-14 ${isNarrow ? 'px-2 text-xl' : 'px-3 text-2xl'}`
      }
    />
  );
}

/** A field of its own row, with what is expected under it and an instrument beside it. */
function Row(
  props: FieldProps & {
    pull: () => void;
    instrument: string | undefined;
    /** It shares its row with others: the instrument is a picture there. */
    isNarrow: boolean;
  },
) {
  const { field, readings, idOf, pull, instrument, isNarrow } = props;
  const pocketed = usePocket();
  const typed = readings.typed(field.id);
  return (
    <div>
      <label htmlFor={idOf(field.id)} className="font-medium">
        {field.spec.label}
        {field.isOptional && <span className="font-normal text-soft"> (may stay empty)</span>}
      </label>
      <div className="mt-1 flex gap-2">
        <div
          className={`flex min-w-0 flex-1 items-center rounded-lg border-2 bg-card ${typed.isProblem ? 'border-clay' : 'border-cork focus-within:border-ember'}`}
        >
          <Box {...props} />
          <span className="reading pr-3 text-lg text-soft">{field.spec.unit}</span>
        </div>
        {instrument !== undefined && (
          <Button
            className="min-h-14"
            aria-label={`Read ${inSentence(field.spec.label)} from the ${inSentence(instrument)}`}
            onClick={pull}
          >
            <Gauge aria-hidden className="size-5" /> {!isNarrow && 'Read'}
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
      <Question {...props} />
    </div>
  );
}

/** Fields that stand in the cells of the battery, and under the drawing whatever must be asked about them. */
function InCells({
  fields,
  type,
  propsOf,
}: {
  fields: readonly AskedReading[];
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
          if (!field) return null;
          const props = propsOf(field);
          return (
            <>
              <label htmlFor={props.idOf(field.id)} className="sr-only">
                {field.spec.label}
              </label>
              <Box {...props} isSmall />
            </>
          );
        }}
      />
      {first && (
        <p className="mt-1 text-sm text-soft">
          {first.spec.unit}, expected {rangeText(first.spec, first.spec.plausible)}
        </p>
      )}
      {fields.map((field) => (
        <Question key={field.id} {...propsOf(field)} />
      ))}
    </div>
  );
}

interface FieldsProps {
  readonly fields: readonly AskedReading[];
  readonly readings: Readings;
  readonly job: string;
  /** Needed where fields stand in cells. */
  readonly type?: Pick<BatteryType, 'cells' | 'positivePost'>;
  /** Whether the first field takes the keyboard when the form appears. */
  readonly isFirst?: boolean;
  /** What stands under the fields. */
  readonly children?: ReactNode;
}

/** Puts what the bench's instruments read into the fields that they can read. */
export function usePull(fields: readonly AskedReading[], readings: Readings, job: string) {
  const { data: instruments = [] } = useInstruments();
  const readerOf = ({ quantity }: AskedReading) =>
    quantity && instruments.find((one) => one.quantities.includes(quantity));
  const pull = async (field: AskedReading): Promise<void> => {
    const instrument = readerOf(field);
    if (!instrument || !field.quantity) return;
    try {
      const reading = await readFrom(instrument, field.quantity, job);
      readings.put(field.id, reading.value, reading.instrument);
    } catch (error) {
      sayTrouble(sentenceOf(error));
    }
  };
  const readable = fields.filter((field) => readerOf(field) !== undefined);
  const pullAll = async (): Promise<void> => {
    for (const field of readable) await pull(field);
  };
  return { readerOf, pull, readable, pullAll };
}

export function ReadingFields({ fields, readings, job, type, isFirst = true, children }: FieldsProps) {
  const own = useId();
  const { readerOf, pull } = usePull(fields, readings, job);
  const idOf = (id: string): string => `${own}${id}`;
  const [first] = fields;
  const firstId = first && isFirst ? idOf(first.id) : undefined;
  useEffect(() => {
    if (firstId !== undefined) focusQuietly(document.getElementById(firstId));
  }, [firstId]);
  const propsOf = (field: AskedReading): FieldProps => ({ field, readings, idOf });
  const inCells = type ? fields.filter(({ inCell }) => inCell !== undefined) : [];
  return (
    <div className="mt-4 space-y-4 px-5">
      {type && inCells.length > 0 && <InCells fields={inCells} type={type} propsOf={propsOf} />}
      <div className="space-y-3">
        <div className="grid grid-cols-[repeat(auto-fit,minmax(min(11rem,100%),1fr))] gap-x-4 gap-y-3">
          {fields
            .filter((field) => !inCells.includes(field))
            .map((field) => (
              <Row
                key={field.id}
                {...propsOf(field)}
                pull={() => void pull(field)}
                instrument={readerOf(field)?.name}
                isNarrow={fields.length > 1}
              />
            ))}
        </div>
        {children}
      </div>
    </div>
  );
}
