/** A record today's run sheets cannot read: why, what stands in it, and the file to take away. */
import { useQuery } from '@tanstack/react-query';
import { FileJson } from 'lucide-react';
import { dateTimeText } from '@cork-ember/core/clock/clockText.ts';
import { ask } from '../api/client.ts';
import { useShop } from '../api/queries.ts';
import { Notice } from '../ui/Notice.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { Title } from '../ui/Title.tsx';
import { card } from '../ui/card.ts';

interface RawEntry {
  readonly seq: number;
  readonly kind: string;
  readonly occurredAt: number;
  readonly by: string;
  readonly payload: unknown;
}

interface RawJob {
  readonly entries: readonly RawEntry[];
  readonly names: readonly { readonly commitment: string; readonly name: string }[];
}

/** What an entry says, as it stands in the file, with its customer's name put in. */
function payloadText({ payload }: RawEntry, names: RawJob['names']): string {
  const text = typeof payload === 'string' ? payload : JSON.stringify(payload);
  return names.reduce((said, { commitment, name }) => said.replaceAll(`owner:${commitment}`, name), text);
}

/** A date of any size: one nobody has lived in is shown as the number it is. */
function momentText(at: number, timeZone: string): string {
  return Number.isNaN(new Date(at).getTime()) ? String(at) : dateTimeText(at, timeZone);
}

export function Apart({ id, why }: { readonly id: string; readonly why: string }) {
  const shops = useShop();
  const { data: shop } = shops;
  const { data, error, refetch } = useQuery({
    queryKey: ['raw', id],
    queryFn: () => ask<RawJob>(`/api/jobs/${id}/export`),
  });
  if (!data || !shop) return <Waiting on={[{ data, error, refetch }, shops]} />;
  return (
    <div className="mx-auto max-w-3xl space-y-4 p-5">
      <Title className="text-xl font-bold">A record that stands apart</Title>
      <Notice tone="stop">{why}</Notice>
      <p>
        Nothing of it is lost and nothing else is held up. Work on this battery goes on by hand; its bay stays
        taken. Take the file away for whoever looks after this program, and look below at what was recorded.
      </p>
      <a
        href={`/api/jobs/${id}/export`}
        download
        className="inline-flex min-h-14 items-center gap-2 rounded-lg border-2 border-cork px-5 font-medium hover:bg-paper"
      >
        <FileJson aria-hidden className="size-5" /> Whole job (JSON)
      </a>
      <ol className={card({ pad: 'none' })}>
        {data.entries.map((entry) => (
          <li key={entry.seq} translate="no" className="border-b border-line px-4 py-2 last:border-0">
            <p className="text-sm text-soft">
              #{entry.seq} · {momentText(entry.occurredAt, shop.hours.timeZone)} · {entry.by} · {entry.kind}
            </p>
            <p className="reading text-sm break-all">{payloadText(entry, data.names)}</p>
          </li>
        ))}
      </ol>
    </div>
  );
}
