import type { ReactNode } from 'react';

/** A line under the band: something of the whole shop, or of this browser, that one should know. */
export function Strip({ children, isAsking = false }: { children: ReactNode; isAsking?: boolean }) {
  return (
    <div
      role={isAsking ? 'group' : 'status'}
      className="flex items-center gap-3 bg-brass-wash px-5 py-2 text-brass-ink print:hidden"
    >
      {children}
    </div>
  );
}
