import type { ReactNode } from 'react';

/** A field under the name it has itself. */
export function Named({
  label,
  className = '',
  children,
}: {
  readonly label: string;
  readonly className?: string;
  readonly children: ReactNode;
}) {
  return (
    <div className={`font-medium ${className}`}>
      <span aria-hidden>{label}</span>
      <div className="mt-1">{children}</div>
    </div>
  );
}
