/** What is typed or chosen in: 48 px high at least, red at its edge where something is wrong with it. */
import { cva } from 'class-variance-authority';

export const box = cva(
  'rounded-lg border-2 border-cork bg-card aria-invalid:border-clay data-[invalid=true]:border-clay',
  {
    variants: {
      fit: {
        /** As wide as its place, under its label. */
        line: 'mt-1 block min-h-12 w-full px-3 font-normal',
        /** Beside others. */
        inline: 'min-h-12 min-w-0 px-3 font-normal',
        /** A button that opens what is chosen from. */
        opener:
          'flex min-h-12 min-w-0 items-center justify-between gap-2 px-3 text-left font-normal disabled:opacity-55',
      },
    },
    defaultVariants: { fit: 'line' },
  },
);
