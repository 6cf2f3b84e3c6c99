/** A date code as it is stamped: typed as it stands, read into a month, and how it was read stands below. */
import { useState } from 'react';
import { readDateCode } from '@cork-ember/core/battery/dateStamp.ts';
import { Choice } from '../ui/Choice.tsx';

interface DateCodeFieldProps {
  readonly id: string;
  /** Year and month; nothing where nobody knows it. */
  readonly value: string;
  readonly now: number;
  readonly className: string;
  readonly isInvalid?: boolean;
  readonly onChange: (dateCode: string) => void;
}

const PLAIN = /^\d{4}-\d\d$/;

export function DateCodeField({
  id,
  value,
  now,
  className,
  isInvalid = false,
  onChange,
}: DateCodeFieldProps) {
  const [stamp, setStamp] = useState('');
  // Another battery was chosen: what was stamped on the one before says nothing.
  const isOwn = stamp !== '' && readDateCode(stamp, now).some(({ dateCode }) => dateCode === value);
  const readings = isOwn && !PLAIN.test(stamp.trim()) ? readDateCode(stamp, now) : [];
  const shown = isOwn ? stamp : value;
  const typed = (text: string): void => {
    setStamp(text);
    onChange(readDateCode(text, now)[0]?.dateCode ?? text.trim());
  };
  const [only] = readings;
  return (
    <>
      <input
        id={id}
        placeholder="2026-01, or as stamped"
        maxLength={10}
        autoComplete="off"
        aria-invalid={isInvalid}
        className={className}
        value={shown}
        onChange={(event) => typed(event.target.value)}
      />
      {readings.length === 1 && only && <p className="mt-1 text-sm text-soft">Read as {only.words}.</p>}
      {readings.length > 1 && (
        <div className="mt-2">
          <p className="text-sm text-soft">The stamp can mean:</p>
          <Choice
            legend="What the stamp means"
            options={readings.slice(0, 4).map(({ dateCode, words }) => ({ id: dateCode, label: words }))}
            chosen={value}
            onChoose={onChange}
          />
        </div>
      )}
    </>
  );
}
