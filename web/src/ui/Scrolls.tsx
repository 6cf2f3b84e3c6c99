/** What is wider or higher than its place, such as a table: scrolled by finger, wheel and keyboard, under its own name. */
import type { ReactNode } from 'react';

interface ScrollsProps {
  readonly name: string;
  readonly className?: string;
  readonly children: ReactNode;
}

export function Scrolls({ name, className = '', children }: ScrollsProps) {
  return (
    <div
      role="region"
      aria-label={name}
      tabIndex={0}
      className={`overflow-auto print:max-h-none print:overflow-visible ${className}`}
    >
      {children}
    </div>
  );
}
