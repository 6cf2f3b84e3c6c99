/** Fields for readings beside a keypad big enough for gloves; an instrument fills one at a tap. */
import { Gauge } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { InstrumentQuantity } from '@cork-ember/core/runsheet/step.ts';
import { rangeText } from '@cork-ember/core/units/reading.ts';
import { sentenceOf } from '../api/client.ts';
import { pocket, usePocket } from '../api/pocket.ts';
import { readFrom, useInstruments } from '../api/queries.ts';
import { Button } from '../ui/Button.tsx';
import { focusQuietly } from '../ui/focusQuietly.ts';
import { Keypad } from './Keypad.tsx';
import type { ReadingField, Readings } from './useReadings.ts';

export interface AskedReading extends ReadingField {
  readonly quantity?: InstrumentQuantity | undefined;
}

interface InputsProps {
  readonly fields: readonly AskedReading[];
  readonly readings: Readings;
  readonly job: string;
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
          <Button onClick={() => readings.type(field.id, suggestion.toFixed(field.spec.decimals))}>
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

export function ReadingInputs({ fields, readings, job }: InputsProps) {
  const { data: instruments = [] } = useInstruments();
  const pocketed = usePocket();
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
  const pull = async (field: AskedReading, quantity: InstrumentQuantity): Promise<void> => {
    const instrument = instruments.find((one) => one.quantities.includes(quantity));
    if (!instrument) return;
    try {
      const reading = await readFrom(instrument, quantity, job);
      readings.fill(field.id, reading.value.toFixed(field.spec.decimals), reading.instrument);
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  const readable = fields.flatMap((field) => (field.quantity ? [{ field, quantity: field.quantity }] : []));
  const hasInstrument = instruments.some((one) =>
    readable.some(({ quantity }) => one.quantities.includes(quantity)),
  );
  const pullAll = async (): Promise<void> => {
    for (const { field, quantity } of readable) await pull(field, quantity);
  };
  return (
    <div className="mt-4 flex flex-wrap gap-5 px-5">
      <div className="min-w-64 flex-1 space-y-3">
        {readable.length > 1 && hasInstrument && (
          <Button className="min-h-14 w-full" onClick={() => void pullAll()}>
            <Gauge aria-hidden className="size-5" /> Read all {readable.length === 2 ? 'two' : 'three'}
          </Button>
        )}
        {fields.map((field) => {
          const typed = readings.typed(field.id);
          const { quantity } = field;
          const instrument = quantity && instruments.find((one) => one.quantities.includes(quantity));
          return (
            <div key={field.id}>
              <label htmlFor={field.id} className="font-medium">
                {field.spec.label}
                {field.isOptional && <span className="font-normal text-soft"> (if it differs)</span>}
              </label>
              <div className="mt-1 flex gap-2">
                <div
                  className={`flex min-w-0 flex-1 items-center rounded-lg border-2 bg-card ${typed.isProblem ? 'border-clay' : current === field.id ? 'border-ember' : 'border-cork'}`}
                >
                  <input
                    id={field.id}
                    ref={(element) => {
                      if (!element) return;
                      inputs.current.set(field.id, element);
                    }}
                    value={typed.text}
                    inputMode="decimal"
                    autoComplete="off"
                    maxLength={20}
                    aria-invalid={typed.isProblem === true}
                    aria-describedby={typed.sentence === undefined ? undefined : `${field.id}-says`}
                    onFocus={() => setActive(field.id)}
                    onChange={(event) => readings.type(field.id, event.target.value)}
                    className="reading min-h-14 w-full min-w-0 bg-transparent px-3 text-2xl font-semibold outline-none"
                  />
                  <span className="reading pr-3 text-lg text-soft">{field.spec.unit}</span>
                </div>
                {quantity && instrument && (
                  <Button
                    className="min-h-14"
                    aria-label={`Read ${field.spec.label.toLowerCase()} from the ${instrument.name.toLowerCase()}`}
                    onClick={() => void pull(field, quantity)}
                  >
                    <Gauge aria-hidden className="size-5" /> Read
                  </Button>
                )}
              </div>
              {typed.sentence === undefined && (
                <p className="mt-1 text-sm text-soft">
                  {typed.source
                    ? `from the ${typed.source.toLowerCase()}`
                    : `expected ${rangeText(field.spec, field.spec.plausible)}`}
                </p>
              )}
              {pocketed && sameUnit(pocketed.unit, field.spec.unit) && (
                <Button
                  className="mt-1.5"
                  onClick={() => {
                    readings.fill(field.id, pocketed.value.toFixed(field.spec.decimals), 'Reckoner');
                    pocket(undefined);
                  }}
                >
                  From the reckoner: {pocketed.value.toFixed(field.spec.decimals)} {field.spec.unit}
                </Button>
              )}
              <Question field={field} readings={readings} />
            </div>
          );
        })}
      </div>
      <Keypad onPress={press} />
    </div>
  );
}
