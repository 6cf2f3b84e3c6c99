/** A table of things: sorted by a press on a head, read row by row, saved as a file. Figures stand right, words left. */
import {
  createColumnHelper,
  createSortedRowModel,
  rowSortingFeature,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { ArrowDown, ArrowUp, ChevronsUpDown, Download } from 'lucide-react';
import { useMemo, type ReactNode } from 'react';
import { inShop, shopRegion } from '../region/shopRegion.ts';
import { Button } from './Button.tsx';
import { saveFile } from './saveFile.ts';
import { Scrolls } from './Scrolls.tsx';

export interface Column<Row> {
  readonly id: string;
  readonly head: string;
  readonly cell: (row: Row) => ReactNode;
  /** What it is sorted by; nothing known comes last. Without it the column is not sorted. */
  readonly sortBy?: (row: Row) => number | string | undefined;
  /** As it stands in a file; without it the column is left out of the file. */
  readonly text?: (row: Row) => string;
  /** Figures stand right, in the type of readings. */
  readonly isFigure?: boolean;
  readonly className?: string;
}

interface TableProps<Row> {
  /** What it is a table of. */
  readonly name: string;
  readonly rows: readonly Row[];
  /** The first names the row. Held outside the component, or in a memo. */
  readonly columns: readonly Column<Row>[];
  readonly keyOf: (row: Row) => string;
  /** The last line, such as a sum: a cell of each column. */
  readonly foot?: (column: Column<Row>) => ReactNode;
  /** Many rows, or few that are only read: close under each other. */
  readonly isDense?: boolean;
  /** What stands under a row, across all columns. */
  readonly under?: (row: Row) => ReactNode;
  /** Name of the file it can be saved as; without it none is offered. */
  readonly file?: string;
  readonly className?: string;
}

const features = tableFeatures({ rowSortingFeature, sortedRowModel: createSortedRowModel() });

const SORTED = {
  asc: { aria: 'ascending', Icon: ArrowUp },
  desc: { aria: 'descending', Icon: ArrowDown },
} as const;

async function save<Row extends object>(
  file: string,
  rows: readonly Row[],
  columns: readonly Column<Row>[],
): Promise<void> {
  const { default: papaparse } = await import('papaparse');
  const written = columns.filter(({ text }) => text !== undefined);
  const fields = written.map(({ head }) => inShop(head));
  const data = rows.map((row) => written.map(({ text }) => inShop(text?.(row) ?? '')));
  // Where a comma marks decimals a spreadsheet parts columns by semicolons.
  const delimiter = shopRegion().decimalMark === ',' ? ';' : ',';
  saveFile(file, papaparse.unparse({ fields, data }, { delimiter, escapeFormulae: true }));
}

/** Of figures to the right, of words to the left. */
const placeOf = <Row,>({ isFigure, className = '' }: Column<Row>, isDense: boolean): string =>
  `${isDense ? 'px-1 py-1 max-sm:text-sm sm:px-2' : 'px-2 py-2'} lg:px-3 ${isFigure ? 'text-right whitespace-nowrap' : 'text-left'} ${className}`;

/** The cells of a line; the first names it. */
function cellsOf<Row>(
  columns: readonly Column<Row>[],
  isDense: boolean,
  inside: (column: Column<Row>) => ReactNode,
): ReactNode {
  return columns.map((column, at) => {
    const Cell = at === 0 ? 'th' : 'td';
    return (
      <Cell
        key={column.id}
        {...(at === 0 ? { scope: 'row' as const } : {})}
        className={`${column.isFigure ? 'reading' : ''} ${at === 0 ? 'font-medium' : ''} ${placeOf(column, isDense)}`}
      >
        {inside(column)}
      </Cell>
    );
  });
}

export function Table<Row extends object>({
  name,
  rows,
  columns,
  keyOf,
  foot,
  isDense = false,
  under,
  file,
  className = '',
}: TableProps<Row>) {
  const defined = useMemo(() => {
    const helper = createColumnHelper<typeof features, Row>();
    return columns.map(({ id, sortBy }) =>
      helper.accessor((row): unknown => sortBy?.(row), {
        id,
        enableSorting: sortBy !== undefined,
        sortUndefined: 'last',
        sortFn: (a, b, column) => {
          const [one, other] = [a.getValue(column), b.getValue(column)];
          return typeof one === 'number' && typeof other === 'number'
            ? one - other
            : String(one).localeCompare(String(other), undefined, { numeric: true });
        },
      }),
    );
  }, [columns]);
  const table = useTable({
    features,
    columns: defined,
    data: rows,
    getRowId: (row) => keyOf(row),
  });
  const heads = table.getHeaderGroups()[0]?.headers ?? [];
  return (
    <div className={className}>
      <Scrolls name={name}>
        <table className="w-full border-collapse">
          <thead>
            <tr className="border-b-2 border-cork text-sm text-soft">
              {columns.map((column, at) => {
                const header = heads[at]?.column;
                const sorted = header?.getIsSorted() || undefined;
                const { aria, Icon } = sorted ? SORTED[sorted] : { aria: undefined, Icon: ChevronsUpDown };
                return (
                  <th
                    key={column.id}
                    scope="col"
                    aria-sort={aria}
                    className={`font-semibold ${placeOf(column, isDense)}`}
                  >
                    {column.sortBy ? (
                      <button
                        type="button"
                        onClick={header?.getToggleSortingHandler()}
                        className={`inline-flex min-h-12 items-center gap-1 ${column.isFigure ? 'flex-row-reverse' : ''}`}
                      >
                        {column.head}
                        <Icon aria-hidden className="size-4 shrink-0 print:hidden" />
                      </button>
                    ) : (
                      column.head
                    )}
                  </th>
                );
              })}
            </tr>
          </thead>
          <tbody>
            {table.getRowModel().rows.map(({ id, original }) => {
              const below = under?.(original);
              return [
                <tr
                  key={id}
                  className="border-b border-line align-baseline last:border-b-0 has-[+.under]:border-b-0"
                >
                  {cellsOf(columns, isDense, (column) => column.cell(original))}
                </tr>,
                below !== undefined && below !== null && (
                  <tr key={`${id} under`} className="under border-b border-line">
                    <td colSpan={columns.length} className="px-2 pb-2 text-sm lg:px-3">
                      {below}
                    </td>
                  </tr>
                ),
              ];
            })}
          </tbody>
          {foot && (
            <tfoot>
              <tr className="border-t-2 border-cork [&>*]:font-semibold">
                {cellsOf(columns, isDense, foot)}
              </tr>
            </tfoot>
          )}
        </table>
      </Scrolls>
      {file !== undefined && rows.length > 0 && (
        <Button
          className="mt-3 print:hidden"
          onClick={() =>
            void save(
              file,
              table.getRowModel().rows.map(({ original }) => original),
              columns,
            )
          }
        >
          <Download aria-hidden className="size-5" /> Save as CSV
        </Button>
      )}
    </div>
  );
}
