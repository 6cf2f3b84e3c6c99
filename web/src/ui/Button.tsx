import { cva, type VariantProps } from 'class-variance-authority';
import type { ComponentProps } from 'react';

/** What looks like a button, where it is none itself: at least 48 px high, it is hit with a glove. */
export const buttonClass = cva(
  'inline-flex min-h-12 items-center justify-center gap-2 rounded-lg px-4 font-medium disabled:opacity-55',
  {
    variants: {
      tone: {
        go: 'bg-verdigris-deep text-white hover:brightness-110',
        plain: 'border-2 border-cork bg-card text-char hover:bg-paper',
        danger: 'bg-clay-deep text-white hover:brightness-110',
        quiet: 'text-soft underline decoration-cork underline-offset-4 hover:text-char',
      },
    },
    defaultVariants: { tone: 'plain' },
  },
);

export function Button({
  tone,
  className,
  type = 'button',
  ...rest
}: ComponentProps<'button'> & VariantProps<typeof buttonClass>) {
  return <button type={type} className={buttonClass({ tone, className })} {...rest} />;
}
