/** What lies on the view as a sheet of its own. */
import { cva } from 'class-variance-authority';

export const card = cva('rounded-xl', {
  variants: {
    edge: {
      plain: 'border border-line bg-card',
      /** Something is asked on it. */
      asking: 'border-2 border-cork bg-panel',
      /** It is what to do first. */
      first: 'border-2 border-cork bg-card',
      /** All of it is answered with one press. */
      ready: 'border-2 border-verdigris bg-card',
      /** It was changed and is not saved yet, or is at hand. */
      live: 'border-2 border-ember bg-card',
    },
    pad: { none: '', snug: 'p-3', usual: 'p-4', wide: 'p-5' },
  },
  defaultVariants: { edge: 'plain', pad: 'usual' },
});
