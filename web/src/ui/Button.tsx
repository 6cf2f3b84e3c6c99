import type { ComponentProps } from 'react';

type Tone = 'go' | 'plain' | 'danger' | 'quiet';

const TONES: Record<Tone, string> = {
  go: 'bg-verdigris-deep text-white hover:brightness-110',
  plain: 'border-2 border-cork bg-card text-char hover:bg-paper',
  danger: 'bg-clay-deep text-white hover:brightness-110',
  quiet: 'text-soft underline decoration-cork underline-offset-4 hover:text-char',
};

/** At least 48 px high: it is hit with a glove. */
export function Button({
  tone = 'plain',
  className = '',
  type = 'button',
  ...rest
}: ComponentProps<'button'> & { tone?: Tone }) {
  return (
    <button
      type={type}
      className={`inline-flex min-h-12 items-center justify-center gap-2 rounded-lg px-4 font-medium disabled:opacity-55 ${TONES[tone]} ${className}`}
      {...rest}
    />
  );
}
