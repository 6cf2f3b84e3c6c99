/** A line chart as plain SVG, for the documents. */
import { scaleLinear, scaleLog } from 'd3-scale';
import { line as lineOf } from 'd3-shape';

export interface Line {
  readonly name: string;
  readonly points: readonly (readonly [x: number, y: number])[];
  /** Published or measured: drawn as dots, not as a line. */
  readonly isDots?: boolean;
}

export interface ChartSpec {
  readonly title: string;
  readonly x: string;
  readonly y: string;
  readonly lines: readonly Line[];
  readonly isLogX?: boolean;
}

const WIDTH = 640;
const HEIGHT = 340;
const MARGIN = { top: 34, right: 150, bottom: 46, left: 58 };
const INKS = ['#D9480F', '#2F7A6B', '#86653D', '#241E1A', '#B7791F', '#9B2C2C'];
const DASHES = ['', '7 4', '2 3', '12 4 2 4', '4 2', '1 2'];

const text = (x: number, y: number, words: string, more = ''): string =>
  `<text x="${x.toFixed(1)}" y="${y.toFixed(1)}" ${more}>${words}</text>`;

export function svgChart({ title, x: xName, y: yName, lines, isLogX = false }: ChartSpec): string {
  const all = lines.flatMap(({ points }) => points);
  const xs = all.map(([x]) => x);
  const ys = all.map(([, y]) => y);
  const right = WIDTH - MARGIN.right;
  const bottom = HEIGHT - MARGIN.bottom;
  const x = (isLogX ? scaleLog() : scaleLinear())
    .domain([Math.min(...xs), Math.max(...xs)])
    .range([MARGIN.left, right]);
  const y = scaleLinear()
    .domain([Math.min(...ys), Math.max(...ys)])
    .nice()
    .range([bottom, MARGIN.top]);
  const draw = lineOf<readonly [number, number]>(
    ([each]) => x(each),
    ([, each]) => y(each),
  );
  const grid = y
    .ticks(6)
    .map(
      (tick) =>
        `<line x1="${MARGIN.left}" x2="${right}" y1="${y(tick).toFixed(1)}" y2="${y(tick).toFixed(1)}" stroke="#D9C9AE"/>` +
        text(MARGIN.left - 8, y(tick) + 4, String(tick), 'text-anchor="end"'),
    );
  const marks = x
    .ticks(isLogX ? 4 : 8)
    .map((tick) => text(x(tick), bottom + 18, String(tick), 'text-anchor="middle"'));
  const drawn = lines.map(({ name, points, isDots }, index) => {
    const ink = INKS[index % INKS.length] ?? '#241E1A';
    const dash = DASHES[index % DASHES.length] ?? '';
    const at = MARGIN.top + 12 + index * 20;
    const label = text(right + 38, at + 4, name);
    if (isDots)
      return (
        points
          .map(
            ([px, py]) => `<circle cx="${x(px).toFixed(1)}" cy="${y(py).toFixed(1)}" r="4" fill="${ink}"/>`,
          )
          .join('') + `<circle cx="${right + 22}" cy="${at}" r="4" fill="${ink}"/>${label}`
      );
    return (
      `<path d="${draw([...points]) ?? ''}" fill="none" stroke="${ink}" stroke-width="2" stroke-dasharray="${dash}"/>` +
      `<line x1="${right + 10}" x2="${right + 34}" y1="${at}" y2="${at}" stroke="${ink}" stroke-width="2" stroke-dasharray="${dash}"/>${label}`
    );
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${WIDTH} ${HEIGHT}" width="${WIDTH}" height="${HEIGHT}" font-family="sans-serif" font-size="12" fill="#241E1A">
<rect width="100%" height="100%" fill="#FFFDF9"/>
${text(MARGIN.left, 20, title, 'font-size="14" font-weight="bold"')}
${text((MARGIN.left + right) / 2, HEIGHT - 10, xName, 'text-anchor="middle"')}
${text(14, MARGIN.top - 6, yName)}
${grid.join('\n')}
${marks.join('\n')}
${drawn.join('\n')}
</svg>
`;
}
