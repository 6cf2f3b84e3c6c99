/** The pane of a dialog in the middle of the screen: its name, what is said of it, and what it asks. */
import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

interface DialogPaneProps {
  readonly title: string;
  readonly said?: string;
  /** Its width, where the usual is not enough or too much. */
  readonly className?: string;
  readonly children: ReactNode;
}

export function DialogPane({ title, said, className = 'w-[min(34rem,94vw)]', children }: DialogPaneProps) {
  return (
    <Dialog.Portal>
      <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
      <Dialog.Content
        {...(said === undefined ? { 'aria-describedby': undefined } : {})}
        className={`fixed top-1/2 left-1/2 z-50 max-h-[96dvh] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-xl border border-line bg-card p-5 shadow-xl ${className}`}
      >
        <Dialog.Title className="text-xl font-bold">{title}</Dialog.Title>
        {said !== undefined && <Dialog.Description className="mt-1 text-soft">{said}</Dialog.Description>}
        {children}
      </Dialog.Content>
    </Dialog.Portal>
  );
}
