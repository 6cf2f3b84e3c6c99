/** A labelled line of text, beside boxes for numbers. */
import { useId } from 'react';

interface TextBoxProps {
  readonly label: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly placeholder?: string;
  readonly most?: number;
  /** Figures: in the type of readings. */
  readonly isReading?: boolean;
}

export function TextBox({
  label,
  value,
  onChange,
  placeholder = '',
  most = 40,
  isReading = false,
}: TextBoxProps) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="block text-sm font-medium">
        {label}
      </label>
      <input
        id={id}
        className={`mt-1 block min-h-13 w-full rounded-lg border-2 border-cork bg-card px-3 ${isReading ? 'reading' : ''}`}
        maxLength={most}
        placeholder={placeholder}
        autoComplete="off"
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </div>
  );
}
