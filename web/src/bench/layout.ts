/** How the bench is laid out in the room there is: rows, the words before each cord, one column or two. */

export interface BenchLayout {
  /** Height of a bay, px. */
  readonly row: number;
  /** Width of the words before a cord, px. */
  readonly labels: number;
  /** Beside each other, where many bays are to be in sight at once. */
  readonly columns: 1 | 2;
  /** A line for each bay: number, tag, how it stands, its cord. */
  readonly isDense: boolean;
  /** What it shows now and what is next stand beside the tag instead of on the cord. */
  readonly hasDetails: boolean;
  /** A cord is long enough for the hours of its rings and what it shows now. */
  readonly hasWords: boolean;
}

/** Height of the hours above the bays, px. */
export const AXIS = 24;
/** From so many bays on a line each is what one wants. */
const DENSE_FROM = 17;
const ROW = { least: 68, most: 80 } as const;
const DENSE_ROW = { least: 30, most: 48 } as const;
const LABELS = { phone: 124, plain: 168, details: 400, dense: 236 } as const;
/** Wide enough for details beside the tag, or for two columns, px. */
const WIDE = 1250;
const PHONE = 420;
/** What one column of dense rows holds. */
const MOST_IN_COLUMN = 28;

const within = (value: number, { least, most }: { readonly least: number; readonly most: number }): number =>
  Math.min(most, Math.max(least, Math.floor(value)));

/**
 * @param rows bays and whatever else has a row
 * @param width of the bench, px
 * @param height free for it, px
 * @param isWanted whether somebody said how dense; undefined goes by how many rows there are
 */
export function layoutFor(
  rows: number,
  width: number,
  height: number,
  isWanted: boolean | undefined,
): BenchLayout {
  const isDense = isWanted ?? rows >= DENSE_FROM;
  const isWide = width >= WIDE;
  if (isDense) {
    const columns = isWide && rows > MOST_IN_COLUMN ? 2 : 1;
    const row = within((height - AXIS) / Math.ceil(rows / columns), DENSE_ROW);
    return {
      row,
      labels: width < PHONE ? LABELS.phone : LABELS.dense,
      columns,
      isDense,
      hasDetails: false,
      hasWords: false,
    };
  }
  const row = within((height - AXIS) / Math.max(1, rows), ROW);
  if (width < PHONE)
    return { row, labels: LABELS.phone, columns: 1, isDense, hasDetails: false, hasWords: false };
  return {
    row,
    labels: isWide ? LABELS.details : LABELS.plain,
    columns: 1,
    isDense,
    hasDetails: isWide,
    hasWords: true,
  };
}
