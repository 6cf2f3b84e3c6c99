import type { ReactNode } from 'react';

/** The row of answers at the foot of a step: it stays in sight while the rest is scrolled. */
export function Actions({ children }: { children: ReactNode }) {
  return (
    <div
      role="group"
      aria-label="Answers"
      className="sticky bottom-0 z-10 mt-4 flex flex-wrap gap-3 border-t border-line bg-card px-5 py-3"
    >
      {children}
    </div>
  );
}
