/** One of a few answers: beside each other, or one under the other in a cell of the drawing. */
import { useId } from 'react';

export function Options<Id extends string>({
  legend,
  options,
  chosen,
  onChoose,
  isNarrow = false,
  isPill = false,
}: {
  legend: string;
  options: readonly { readonly id: Id; readonly label: string }[];
  chosen: Id | undefined;
  onChoose: (id: Id) => void;
  /** One under the other, in a cell of the drawing. */
  isNarrow?: boolean;
  /** Short answers, many beside each other. */
  isPill?: boolean;
}) {
  // Two of the same name on a page are not one group.
  const name = useId();
  return (
    <fieldset
      className={isNarrow ? 'flex flex-1 gap-1 *:flex-1 sm:block sm:space-y-1' : 'flex flex-wrap gap-2'}
    >
      <legend className="sr-only">{legend}</legend>
      {options.map(({ id, label }) => (
        <label
          key={id}
          className={`flex min-h-12 cursor-pointer items-center justify-center rounded-lg border-2 border-line px-1 text-center has-checked:border-verdigris has-checked:font-bold has-focus-visible:outline-3 has-focus-visible:outline-ember ${isNarrow ? 'text-sm' : isPill ? 'min-w-14 px-3' : 'px-4'}`}
        >
          <input
            type="radio"
            name={name}
            checked={chosen === id}
            onChange={() => onChoose(id)}
            className={isNarrow || isPill ? 'sr-only' : 'mr-2 size-5 accent-(--verdigris)'}
          />
          {chosen === id && (isNarrow || isPill) ? '✓ ' : ''}
          {label}
        </label>
      ))}
    </fieldset>
  );
}
