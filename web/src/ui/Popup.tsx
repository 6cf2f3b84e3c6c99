/** A button, and the pane it opens beside itself. */
import { useRef, useState, type ReactNode } from 'react';
import { later } from './later.tsx';
import type { PopupPaneProps } from './PopupPane.tsx';

const PopupPane = later<PopupPaneProps>(async () => (await import('./PopupPane.tsx')).PopupPane);

interface PopupProps extends Pick<PopupPaneProps, 'name' | 'align' | 'side'> {
  /** What stands on the button, and how it looks. */
  readonly opener: ReactNode;
  readonly openerClass: string;
  /** How wide the pane is. */
  readonly className: string;
  /** What is in it; `close` closes it. */
  readonly children: (close: () => void) => ReactNode;
}

export function Popup({ opener, openerClass, children, ...pane }: PopupProps) {
  const button = useRef<HTMLButtonElement>(null);
  const [isOpen, setOpen] = useState(false);
  const close = (): void => setOpen(false);
  return (
    <>
      <button
        ref={button}
        type="button"
        aria-haspopup="dialog"
        aria-expanded={isOpen}
        onClick={() => setOpen(!isOpen)}
        className={openerClass}
      >
        {opener}
      </button>
      {isOpen && (
        <PopupPane {...pane} opener={button} onClose={close}>
          {children(close)}
        </PopupPane>
      )}
    </>
  );
}
