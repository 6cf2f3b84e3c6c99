/** A labelled field of the intake form, with its hint, or what is wrong with it. */
import type { ReactNode } from 'react';

export const BOX =
  'mt-1 block min-h-13 w-full rounded-lg border-2 border-cork bg-card px-3 aria-invalid:border-clay';

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
