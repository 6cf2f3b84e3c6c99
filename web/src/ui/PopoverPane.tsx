/** The pane of a popover: in its portal, above the view, never wider or higher than the screen. */
import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';

interface PopoverPaneProps {
  /** What it is, for whoever does not see where it opened. */
  readonly name: string;
  /** How wide it is. */
  readonly className: string;
  readonly align?: 'start' | 'center' | 'end';
  readonly children: ReactNode;
}

export function PopoverPane({ name, className, align = 'center', children }: PopoverPaneProps) {
  return (
    <Popover.Portal>
      <Popover.Content
        aria-label={name}
        align={align}
        sideOffset={8}
        className={`z-30 max-h-[70vh] max-w-[94vw] overflow-auto rounded-lg border border-line bg-card p-4 shadow-lg ${className}`}
      >
        {children}
      </Popover.Content>
    </Popover.Portal>
  );
}
