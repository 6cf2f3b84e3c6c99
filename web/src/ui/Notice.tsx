import { CircleAlert, TriangleAlert } from 'lucide-react';
import type { ReactNode } from 'react';

/** Something the technician must read: brass for care, clay for a stop. Words, colour and shape together. */
export function Notice({ tone, children }: { tone: 'caution' | 'stop'; children: ReactNode }) {
  const isStop = tone === 'stop';
  const Icon = isStop ? CircleAlert : TriangleAlert;
  return (
    <div
      role={isStop ? 'alert' : 'note'}
      className={`flex gap-3 border-l-6 px-4 py-2.5 ${isStop ? 'border-clay bg-clay-wash text-clay' : 'border-brass bg-brass-wash text-brass-ink'}`}
    >
      <Icon aria-hidden className="mt-0.5 size-5 shrink-0" />
      <div className="min-w-0 space-y-1">{children}</div>
    </div>
  );
}
