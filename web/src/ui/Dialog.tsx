/** A question over the view, or a drawer at its edge: opened by whoever holds it, closed by Escape or by what is in it. */
import { later } from './later.tsx';
import type { DialogPaneProps } from './DialogPane.tsx';

const DialogPane = later<DialogPaneProps>(async () => (await import('./DialogPane.tsx')).DialogPane);

export function Dialog({ isOpen = true, ...pane }: DialogPaneProps & { readonly isOpen?: boolean }) {
  return isOpen ? <DialogPane {...pane} /> : null;
}
