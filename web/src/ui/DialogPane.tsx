/** The pane of a dialog: its name, what is said of it, and what it asks; in the middle of the screen, or a drawer at its edge. */
import { Dialog } from 'radix-ui';
import { useRef, type ReactNode } from 'react';
import { Button } from './Button.tsx';

export interface DialogPaneProps {
  readonly title: string;
  readonly said?: string;
  /** Its width, where the usual is not enough or too much. */
  readonly className?: string;
  /** At the right edge, as high as the screen, with a way to close it. */
  readonly isDrawer?: boolean;
  readonly onClose: () => void;
  readonly children: ReactNode;
}

const MIDDLE =
  'top-1/2 left-1/2 max-h-[96dvh] -translate-x-1/2 -translate-y-1/2 rounded-xl border bg-card p-5';
const DRAWER = 'inset-y-0 right-0 border-l bg-panel p-4';

export function DialogPane({ title, said, className, isDrawer = false, onClose, children }: DialogPaneProps) {
  const width = className ?? (isDrawer ? 'w-[min(26rem,94vw)]' : 'w-[min(34rem,94vw)]');
  // Whoever had the keyboard has it again.
  const before = useRef(document.activeElement);
  return (
    <Dialog.Root open onOpenChange={(isOpen) => !isOpen && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
        <Dialog.Content
          {...(said === undefined ? { 'aria-describedby': undefined } : {})}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            if (before.current instanceof HTMLElement) before.current.focus();
          }}
          className={`fixed z-50 overflow-auto border-line shadow-xl ${isDrawer ? DRAWER : MIDDLE} ${width}`}
        >
          <div className={isDrawer ? 'mb-2 flex items-center justify-between gap-2' : ''}>
            <Dialog.Title className="text-xl font-bold">{title}</Dialog.Title>
            {isDrawer && (
              <Button tone="quiet" onClick={onClose}>
                Close
              </Button>
            )}
          </div>
          {said !== undefined && <Dialog.Description className="mt-1 text-soft">{said}</Dialog.Description>}
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
