/** What the view at hand is for, and every key, in one pane. */
import { Button } from './Button.tsx';
import { DialogPane } from './DialogPane.tsx';
import { isSecure, WantsHttps } from './Secure.tsx';
import { helpFor, KEYS } from './views.ts';

export interface HelpPaneProps {
  readonly pathname: string;
  readonly onClose: () => void;
}

export function HelpPane({ pathname, onClose }: HelpPaneProps) {
  const help = helpFor(pathname);
  return (
    <DialogPane title={help?.title ?? 'Help'} onClose={onClose}>
      {help?.text.map((sentence) => (
        <p key={sentence} className="mt-2">
          {sentence}
        </p>
      ))}
      {!isSecure() && (
        <>
          <h3 className="mt-5 font-bold">On plain http</h3>
          <p className="mt-1">
            The screen may go dark on a busy bench, and nothing calls you while another page is in front.{' '}
            <WantsHttps what="What it takes" onGo={onClose} />
          </p>
        </>
      )}
      <h3 className="mt-5 font-bold">Keys</h3>
      <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
        {[...(help?.keys ?? []), ...KEYS].map(([key, does]) => (
          <div key={`${key} ${does}`} className="contents">
            <dt className="reading font-semibold">{key}</dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
      <Button className="mt-5 w-full" onClick={onClose}>
        Close
      </Button>
    </DialogPane>
  );
}
