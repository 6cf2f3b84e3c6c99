/** A labelled number that keeps what was typed until it is a number. */
import { useId, useState } from 'react';
import { Field } from './Field.tsx';
import { readHere, typedHere } from '../region/shopRegion.ts';

interface NumberFieldProps {
  readonly label: string;
  /** The core's unit; it is shown and typed in the shop's. */
  readonly unit: string;
  readonly value: number | undefined;
  readonly onChange: (value: number | undefined) => void;
}

export function NumberField({ label, unit, value, onChange }: NumberFieldProps) {
  const id = useId();
  const [text, setText] = useState(value === undefined || Number.isNaN(value) ? '' : typedHere(value, unit));
  const isOff = text.trim() !== '' && Number.isNaN(readHere(text, unit));
  return (
    <Field id={id} label={label}>
      <div
        className={`mt-1 flex items-center rounded-lg border-2 bg-card ${isOff ? 'border-clay' : 'border-cork'}`}
      >
        <input
          id={id}
          value={text}
          inputMode="decimal"
          autoComplete="off"
          maxLength={12}
          aria-invalid={isOff}
          onChange={(event) => {
            setText(event.target.value);
            const typed = event.target.value;
            // What is no number is kept as none: saving it says so, and never saves what stood there before.
            onChange(typed.trim() === '' ? undefined : readHere(typed, unit));
          }}
          className="reading min-h-12 w-full min-w-0 bg-transparent px-3 outline-none"
        />
        <span className="reading pr-3 text-soft">{unit}</span>
      </div>
    </Field>
  );
}
