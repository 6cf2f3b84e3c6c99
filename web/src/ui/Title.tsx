/** The one heading of a view: it names the browser's tab, and whoever arrives by keyboard or by ear arrives at it. */
import { useEffect, useRef, type ReactNode } from 'react';
import { inShop } from '../region/shopRegion.ts';
import { titleView } from './title.ts';

interface TitleProps {
  /** What the tab says, where that is not what stands there. */
  readonly said?: string;
  readonly id?: string;
  readonly className?: string;
  readonly children: ReactNode;
}

export function Title({ said, children, id, className = 'text-2xl font-bold' }: TitleProps) {
  const heading = useRef<HTMLHeadingElement>(null);
  const name = said ?? (typeof children === 'string' ? children : '');
  useEffect(() => titleView(inShop(name)), [name]);
  useEffect(() => {
    const { current } = heading;
    current?.closest('main')?.scrollTo(0, 0);
    // A field that already took the keyboard keeps it.
    if (document.activeElement === document.body) current?.focus({ preventScroll: true });
  }, []);
  return (
    <h1 ref={heading} id={id} tabIndex={-1} className={`outline-none ${className}`}>
      {children}
    </h1>
  );
}
