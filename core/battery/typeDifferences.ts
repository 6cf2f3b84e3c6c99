/** What two readings of a type say differently, in words: for a file that is looked at before it is taken. */
import { rowOfType, TYPE_COLUMNS } from './typesCsv.ts';
import type { ListedType } from './types.ts';

const said = (text: string | undefined): string => (text === undefined || text === '' ? 'none' : text);

/**
 * @param was undefined where the list has none of this code
 * @returns a line for each value that differs, "capacityAh: 9 (was 8)"; of a new one what it says
 */
export function typeDifferences(was: ListedType | undefined, now: ListedType): string[] {
  const [before, after] = [was ? rowOfType(was) : {}, rowOfType(now)];
  return TYPE_COLUMNS.filter(
    (column) => column !== 'id' && (before[column] ?? '') !== (after[column] ?? ''),
  ).map((column) =>
    was
      ? `${column}: ${said(after[column])} (was ${said(before[column])})`
      : `${column}: ${said(after[column])}`,
  );
}
