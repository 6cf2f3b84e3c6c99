/** One of a few answers: beside each other, or one under the other in a cell of the drawing. */
import { cva } from 'class-variance-authority';
import { useId } from 'react';

const group = cva('', {
  variants: {
    kind: {
      plain: 'flex flex-wrap gap-2',
      pill: 'flex flex-wrap gap-2',
      cell: 'flex flex-1 gap-1 *:flex-1 sm:block sm:space-y-1',
    },
  },
});

const answer = cva(
  'flex min-h-13 cursor-pointer items-center justify-center rounded-lg border-2 border-cork bg-card text-center has-checked:border-verdigris has-checked:font-semibold has-focus-visible:outline-3 has-focus-visible:outline-offset-2 has-focus-visible:outline-ember',
  {
    variants: {
      kind: { plain: 'px-4', pill: 'min-w-14 px-3', cell: 'px-1 text-sm' },
    },
  },
);

interface ChoiceProps<Id extends string> {
  readonly legend: string;
  readonly options: readonly { readonly id: Id; readonly label: string }[];
  readonly chosen: Id | undefined;
  readonly onChoose: (id: Id) => void;
  /** Whether its name is shown above it. */
  readonly isNamed?: boolean;
  /** Pills are short answers, many beside each other; those of a cell stand under each other in its drawing. */
  readonly kind?: 'plain' | 'pill' | 'cell';
}

export function Choice<Id extends string>({
  legend,
  options,
  chosen,
  onChoose,
  isNamed = false,
  kind = 'plain',
}: ChoiceProps<Id>) {
  // Two of the same name on a page are not one group.
  const name = useId();
  const isTicked = kind !== 'plain';
  return (
    <fieldset>
      <legend className={isNamed ? 'mb-1 font-medium' : 'sr-only'}>{legend}</legend>
      <div className={group({ kind })}>
        {options.map(({ id, label }) => (
          <label key={id} className={answer({ kind })}>
            <input
              type="radio"
              name={name}
              checked={chosen === id}
              onChange={() => onChoose(id)}
              className={isTicked ? 'sr-only' : 'mr-2 size-5 accent-(--verdigris)'}
            />
            {isTicked && chosen === id ? '✓ ' : ''}
            {label}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
