/** The box a number is typed into: the keypad fills it, and on a tablet the tablet's own keyboard stays down. */
import type { ComponentProps } from 'react';
import { usePad } from './usePad.ts';

type InputProps = Omit<ComponentProps<'input'>, 'onChange' | 'value' | 'inputMode' | 'autoComplete'>;

interface BoxProps extends InputProps {
  readonly value: string;
  readonly onType: (text: string) => void;
  /** What the pad says it fills. */
  readonly label: string;
  readonly unit: string;
  /** What was read of it last, as it would be typed. */
  readonly last?: string | undefined;
}

export function ReadingBox({ onType, label, unit, last, className = '', ...rest }: BoxProps) {
  const [isOnPad] = usePad();
  return (
    <input
      {...rest}
      inputMode={isOnPad ? 'none' : 'decimal'}
      autoComplete="off"
      maxLength={20}
      data-reading=""
      data-label={label}
      data-unit={unit}
      data-last={last}
      onChange={(event) => onType(event.target.value)}
      className={`reading w-full min-w-0 scroll-mt-4 scroll-mb-28 bg-transparent font-semibold outline-none ${className}`}
    />
  );
}
