/** Who did what: who came in, what was refused, what went against a house rule, and what was changed. */
import { Download } from 'lucide-react';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { AUDIT_KINDS, type AuditEntry, type AuditKind } from '@cork-ember/core/access/people.ts';
import { dateTimeText } from '@cork-ember/core/clock/clockText.ts';
import { ask } from '../api/client.ts';
import { buttonClass } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Waiting } from '../ui/Waiting.tsx';

const CALLED: Readonly<Record<AuditKind, string>> = {
  access: 'Came and went',
  refused: 'Refused',
  people: 'People and browsers',
  override: 'Against a house rule',
  amended: 'Amended',
  shop: 'The shop',
};

const CHOICES = [
  { id: 'all', label: 'Everything' },
  ...AUDIT_KINDS.map((id) => ({ id, label: CALLED[id] })),
] as const;

/** So many are shown; the table has them all. */
const SHOWN = 200;

export function AuditPart({ timeZone }: { timeZone: string }) {
  const audit = useQuery({
    queryKey: ['audit'],
    queryFn: () => ask<readonly AuditEntry[]>('/api/audit'),
    staleTime: 0,
  });
  const [kind, setKind] = useState<AuditKind | 'all'>('all');
  if (!audit.data) return <Waiting on={[audit]} />;
  const meant = audit.data.filter((entry) => kind === 'all' || entry.kind === kind);
  return (
    <div className="max-w-4xl space-y-4">
      <div className="flex flex-wrap items-end justify-between gap-3">
        <Choice legend="What is shown" kind="pill" options={CHOICES} chosen={kind} onChoose={setKind} />
        <a href="/api/audit.csv" download className={buttonClass({ className: 'min-h-14' })}>
          <Download aria-hidden className="size-5" /> As a table
        </a>
      </div>
      {meant.length === 0 ? (
        <p className="text-soft">Nothing of it yet.</p>
      ) : (
        <ol aria-label="Who did what, the latest first">
          {meant.slice(0, SHOWN).map(({ id, at, by, tablet, kind: of, what }) => (
            <li key={`${of} ${id} ${at}`} className="border-b border-line py-3">
              <p className="font-medium">
                {by}: {what}
              </p>
              <p className="text-sm text-soft">
                {CALLED[of]}, {dateTimeText(at, timeZone)}
                {tablet === '' ? '' : `, at ${tablet}`}
              </p>
            </li>
          ))}
        </ol>
      )}
      {meant.length > SHOWN && (
        <p className="text-soft">
          The latest {SHOWN} of {meant.length}; the table has all.
        </p>
      )}
    </div>
  );
}
