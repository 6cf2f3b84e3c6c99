import { SOURCE_NAMES, type Sourced } from '@cork-ember/core/rules/thresholds.ts';
import { Popup } from './Popup.tsx';

/** A number with its origin; a tap says why it is what it is. */
export function SourceChip({ label, sourced }: { label: string; sourced: Sourced }) {
  const shown = `${Number(sourced.value.toFixed(2))} ${sourced.unit}`.trim();
  return (
    <Popup
      name={`${label}: why`}
      className="w-80"
      openerClass="inline-flex min-h-12 items-center gap-2 rounded-md border border-line px-3 text-sm hover:bg-paper"
      opener={
        <>
          <span className="text-soft">{label}</span>
          <span className="reading font-semibold">{shown}</span>
          <span className="text-verdigris">{SOURCE_NAMES[sourced.source]}</span>
        </>
      }
    >
      {() => (
        <>
          <p className="font-semibold">
            {shown}, from the {SOURCE_NAMES[sourced.source]}
          </p>
          <p className="mt-1 text-soft">{sourced.because}</p>
          <p className="mt-2 text-sm text-soft">
            The label wins over the maker’s sheet, that over a house rule, that over the handbook.
          </p>
        </>
      )}
    </Popup>
  );
}
