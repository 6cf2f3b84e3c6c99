/** Yes or no, hit with a glove. */
import type { ReactNode } from 'react';

interface TickProps {
  readonly label: ReactNode;
  readonly isOn: boolean;
  readonly onChange: (isOn: boolean) => void;
  readonly className?: string;
}

export function Tick({ label, isOn, onChange, className = '' }: TickProps) {
  return (
    <label className={`flex min-h-12 items-center gap-3 ${className}`}>
      <input
        type="checkbox"
        className="size-6 shrink-0 accent-(--verdigris)"
        checked={isOn}
        onChange={(event) => onChange(event.target.checked)}
      />
      {label}
    </label>
  );
}
