/** Something to be typed or chosen, under its label, with its hint, or what is wrong with it. */
import type { ReactNode } from 'react';

export function Field({
  id,
  label,
  error,
  hint,
  beside,
  children,
}: {
  id: string;
  label: string;
  error?: string | undefined;
  hint?: string;
  /** What stands at the end of its label's line. */
  beside?: ReactNode;
  children: ReactNode;
}) {
  return (
    <div>
      <div className={beside ? 'flex flex-wrap items-center justify-between' : ''}>
        <label htmlFor={id} className="font-medium">
          {label}
        </label>
        {beside}
      </div>
      {children}
      {error ? (
        <p id={`${id}-says`} role="alert" className="mt-1 text-clay">
          {error}
        </p>
      ) : (
        hint && <p className="mt-1 text-sm text-soft">{hint}</p>
      )}
    </div>
  );
}
