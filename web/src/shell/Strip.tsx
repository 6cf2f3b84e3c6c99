import type { ReactNode } from 'react';

interface StripProps {
  /** What it asks, where it asks something. */
  readonly asks?: string;
  readonly children: ReactNode;
}

/** A line under the band: something of the whole shop, or of this browser, that one should know. */
export function Strip({ asks, children }: StripProps) {
  return (
    <div
      role={asks === undefined ? 'status' : 'region'}
      aria-label={asks}
      className="flex items-center gap-3 bg-brass-wash px-5 py-2 text-brass-ink print:hidden"
    >
      {children}
    </div>
  );
}
