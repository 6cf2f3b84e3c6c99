/** A secret as it is given out: it stands nowhere afterwards. */
import { Button } from './Button.tsx';
import { say } from './say.ts';

interface ShownOnceProps {
  /** What is to be done with it now. */
  readonly says: string;
  readonly secret: string;
  /** How it is drawn, where that is more than its letters. */
  readonly shown?: string;
}

export function ShownOnce({ says, secret, shown = secret }: ShownOnceProps) {
  return (
    <div className="rounded-lg border-2 border-brass p-3">
      <p className="font-semibold">{says}</p>
      <p className="reading mt-1 text-sm break-all whitespace-pre-wrap select-all">{shown}</p>
      {/* Plain http has no clipboard: it stands there to be marked. */}
      {window.isSecureContext && (
        <Button
          className="mt-2"
          onClick={() => void navigator.clipboard?.writeText(secret).then(() => say('Copied.'))}
        >
          Copy
        </Button>
      )}
    </div>
  );
}
