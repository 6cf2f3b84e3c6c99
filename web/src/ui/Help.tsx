/** What the view at hand is for, and every key, in one pane; opened and closed with a question mark. */
import { CircleQuestionMark } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { useEffect, useState } from 'react';
import { useLocation } from 'react-router';
import { Button } from './Button.tsx';
import { DialogPane } from './DialogPane.tsx';
import { isSecure, WantsHttps } from './Secure.tsx';
import { helpFor, KEYS } from './views.ts';

export function Help() {
  const [isOpen, setOpen] = useState(false);
  const { pathname } = useLocation();
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const isTyping = event.target instanceof HTMLElement && event.target.matches('input, textarea, select');
      if (event.key !== '?' || isTyping) return;
      event.preventDefault();
      setOpen((wasOpen) => !wasOpen);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  const help = helpFor(pathname);
  return (
    <Dialog.Root open={isOpen} onOpenChange={setOpen}>
      <Dialog.Trigger
        title="What is this for? ( ? )"
        className="flex min-h-12 flex-col items-center justify-center gap-0.5 text-xs text-soft hover:text-char"
      >
        <CircleQuestionMark aria-hidden className="size-5" />
        Help
      </Dialog.Trigger>
      <DialogPane title={help?.title ?? 'Help'}>
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
              <WantsHttps what="What it takes" onGo={() => setOpen(false)} />
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
        <Dialog.Close asChild>
          <Button className="mt-5 w-full">Close</Button>
        </Dialog.Close>
      </DialogPane>
    </Dialog.Root>
  );
}
