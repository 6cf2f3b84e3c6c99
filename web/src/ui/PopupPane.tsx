/** What opens beside a button: in its portal, never wider or higher than the screen. */
import { cva, type VariantProps } from 'class-variance-authority';
import { Popover } from 'radix-ui';
import type { ComponentProps, ReactNode, RefObject } from 'react';

const paneClass = cva('max-w-[94vw] rounded-lg border border-line bg-card shadow-lg', {
  variants: {
    kind: {
      pane: 'z-30 max-h-[70vh] overflow-auto p-4',
      // Above a dialog that asks with it; what is in it scrolls by itself.
      list: 'z-60 w-(--radix-popover-trigger-width) min-w-56 overflow-hidden',
    },
  },
  defaultVariants: { kind: 'pane' },
});

export interface PopupPaneProps
  extends
    VariantProps<typeof paneClass>,
    Pick<ComponentProps<typeof Popover.Content>, 'id' | 'align' | 'side' | 'onOpenAutoFocus'> {
  /** What it is, for whoever does not see where it opened. */
  readonly name: string;
  /** How wide it is. */
  readonly className?: string;
  /** What opened it: it stands beside that, and gives the keyboard back to it. */
  readonly opener: RefObject<HTMLElement | null>;
  readonly onClose: () => void;
  readonly children: ReactNode;
}

export function PopupPane({ name, className, kind, opener, onClose, children, ...rest }: PopupPaneProps) {
  const isList = kind === 'list';
  return (
    <Popover.Root open modal={isList} onOpenChange={(isOpen) => !isOpen && onClose()}>
      <Popover.Anchor virtualRef={opener as RefObject<HTMLElement>} />
      <Popover.Portal>
        <Popover.Content
          aria-label={name}
          data-scans={isList ? '' : undefined}
          sideOffset={isList ? 4 : 8}
          collisionPadding={8}
          onInteractOutside={(event) => {
            // What opened it closes it by its own press.
            if (event.target instanceof Node && opener.current?.contains(event.target))
              event.preventDefault();
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            opener.current?.focus();
          }}
          className={paneClass({ kind, className })}
          {...rest}
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
