import { sentenceOf } from '../api/client.ts';
import { Button } from './Button.tsx';
import { Notice } from './Notice.tsx';

/** What stands where something is still being fetched, or could not be. */
export function Waiting({ error, retry }: { error: unknown; retry: () => void }) {
  if (!error) return <p className="p-6 text-soft">One moment …</p>;
  return (
    <div className="max-w-xl space-y-4 p-6">
      <Notice tone="stop">{sentenceOf(error)}</Notice>
      <Button onClick={retry}>Try again</Button>
    </div>
  );
}
