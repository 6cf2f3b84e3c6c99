/** A labelled line of text, beside boxes for numbers. */
import { useId } from 'react';
import { box } from './box.ts';
import { Field } from './Field.tsx';

interface TextBoxProps {
  readonly label: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly placeholder?: string;
  readonly most?: number;
  /** Figures: in the type of readings. */
  readonly isReading?: boolean;
}

export function TextBox(props: TextBoxProps) {
  const { label, value, onChange, placeholder = '', most = 40, isReading = false } = props;
  const id = useId();
  return (
    <Field id={id} label={label}>
      <input
        id={id}
        className={box({ className: isReading ? 'reading' : '' })}
        maxLength={most}
        placeholder={placeholder}
        autoComplete="off"
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </Field>
  );
}
