/** The record: what was changed of the shop, by whom, when and why. */
import { clockText, dateText } from '@cork-ember/core/schedule/clockText.ts';
import { useShopChanges } from '../api/queries.ts';
import { Waiting } from '../ui/Waiting.tsx';

export function ChangesPart({ timeZone }: { timeZone: string }) {
  const { data, error, refetch } = useShopChanges();
  if (!data) return <Waiting error={error} retry={() => void refetch()} />;
  if (data.length === 0)
    return (
      <p className="text-soft">
        Nothing was changed yet: the shop works by the defaults. What is changed stands here with its reason.
      </p>
    );
  return (
    <ol aria-label="Changes, the newest first" className="max-w-4xl">
      {data.map(({ id, at, by, why, what }) => (
        <li key={id} className="border-b border-line py-3">
          <p className="font-medium">{what}</p>
          <p className="text-sm text-soft">
            {dateText(at, timeZone)} {clockText(at, timeZone)}, {by}: “{why}”
          </p>
        </li>
      ))}
    </ol>
  );
}
