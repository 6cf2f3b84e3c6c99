/** What stands where something is still being fetched, or could not be: told apart over all that a view needs. */
import { sentenceOf } from '../api/client.ts';
import { Button } from './Button.tsx';
import { Notice } from './Notice.tsx';

/** Something that was asked for. */
export interface Wanted {
  readonly data: unknown;
  readonly error: unknown;
  readonly refetch: () => unknown;
}

/** @param on all the view cannot do without; what is there already counts no more */
export function Waiting({ on }: { on: readonly Wanted[] }) {
  const missing = on.filter(({ data }) => data === undefined);
  const failed = missing.filter(({ error }) => error !== null && error !== undefined);
  if (failed.length === 0) return <p className="p-6 text-soft">One moment …</p>;
  return (
    <div className="max-w-xl space-y-4 p-6">
      {[...new Set(failed.map(({ error }) => sentenceOf(error)))].map((said) => (
        <Notice key={said} tone="stop">
          {said}
        </Notice>
      ))}
      <Button
        onClick={() => {
          for (const { refetch } of failed) refetch();
        }}
      >
        Try again
      </Button>
    </div>
  );
}
