/** The way to what the view at hand is for, and every key; opened and closed with a question mark. */
import { CircleQuestionMark } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useLocation } from 'react-router';
import type { HelpPaneProps } from './HelpPane.tsx';
import { later } from './later.tsx';

const HelpPane = later<HelpPaneProps>(async () => (await import('./HelpPane.tsx')).HelpPane);

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
  return (
    <>
      <button
        type="button"
        title="What is this for? ( ? )"
        onClick={() => setOpen(true)}
        className="flex min-h-12 flex-col items-center justify-center gap-0.5 text-xs text-soft hover:text-char"
      >
        <CircleQuestionMark aria-hidden className="size-5" />
        Help
      </button>
      {isOpen && <HelpPane pathname={pathname} onClose={() => setOpen(false)} />}
    </>
  );
}
