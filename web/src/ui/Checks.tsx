/** Any of a few, each ticked by itself. */
interface ChecksProps<T extends string | number> {
  readonly label: string;
  readonly all: readonly T[];
  readonly chosen: readonly T[];
  readonly text: (one: T) => string;
  readonly onChange: (chosen: readonly T[]) => void;
}

export function Checks<T extends string | number>({ label, all, chosen, text, onChange }: ChecksProps<T>) {
  return (
    <fieldset>
      <legend className="text-sm font-medium">{label}</legend>
      <div className="mt-1 flex flex-wrap gap-2">
        {all.map((one) => (
          <label
            key={one}
            className="flex min-h-12 cursor-pointer items-center gap-2 rounded-lg border-2 border-line px-3 has-checked:border-verdigris"
          >
            <input
              type="checkbox"
              checked={chosen.includes(one)}
              onChange={(event) =>
                onChange(event.target.checked ? [...chosen, one] : chosen.filter((other) => other !== one))
              }
              className="size-5 accent-(--verdigris)"
            />
            {text(one)}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
