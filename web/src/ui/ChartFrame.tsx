/** A chart under what it shows and in which unit; what it draws is said in words or as a table beside it. */
import type { ComponentProps, ReactNode } from 'react';

interface ChartFrameProps extends Omit<ComponentProps<'figure'>, 'title'> {
  /** What it shows, with its unit and what it is drawn over. */
  readonly says: ReactNode;
  readonly saysClass?: string;
}

export function ChartFrame({
  says,
  saysClass = 'text-sm font-semibold',
  className = '',
  children,
  ...rest
}: ChartFrameProps) {
  return (
    <figure className={`min-w-0 ${className}`} {...rest}>
      <figcaption className={saysClass}>{says}</figcaption>
      <div aria-hidden>{children}</div>
    </figure>
  );
}
