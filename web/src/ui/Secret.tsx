/** A PIN or passphrase that is to be kept, seen by nobody. */
import { PASSPHRASE } from '@cork-ember/core/access/pins.ts';
import { box } from './box.ts';

interface SecretProps {
  readonly label: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly hint?: string;
  /** Otherwise it is the one of now. */
  readonly isNew?: boolean;
}

export function Secret({ label, value, onChange, hint, isNew = true }: SecretProps) {
  return (
    <label className="block font-medium">
      {label}
      <input
        type="password"
        autoComplete={isNew ? 'new-password' : 'current-password'}
        maxLength={PASSPHRASE.most}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className={box({ className: 'reading' })}
      />
      {hint !== undefined && <span className="mt-1 block text-sm font-normal text-soft">{hint}</span>}
    </label>
  );
}
