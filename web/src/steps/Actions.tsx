import type { ReactNode } from 'react';

/** The row of answers at the foot of a step. */
export function Actions({ children }: { children: ReactNode }) {
  return <div className="flex flex-wrap gap-3 p-5">{children}</div>;
}
