/** The pane of a popover: in its portal, above the view, never wider or higher than the screen. */
import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';

interface PopoverPaneProps {
  /** How wide it is. */
  readonly className: string;
  readonly align?: 'start' | 'center' | 'end';
  readonly children: ReactNode;
}

export function PopoverPane({ className, align = 'center', children }: PopoverPaneProps) {
  return (
    <Popover.Portal>
      <Popover.Content
        align={align}
        sideOffset={8}
        className={`z-30 max-h-[70vh] max-w-[94vw] overflow-auto rounded-lg border border-line bg-card p-4 shadow-lg ${className}`}
      >
        {children}
      </Popover.Content>
    </Popover.Portal>
  );
}
