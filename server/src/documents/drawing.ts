/** What a paper draws: curves with their axes, the cord of a job. Black on white, told apart by line, not by colour. */
import { scaleLinear } from 'd3-scale';
import type { Segment } from '@cork-ember/core/runsheet/plan/forecast.ts';
import type { Curve } from './curves.ts';
import type { Doc } from './paper.ts';

export const INK = '#241E1A';
export const FAINT = '#5C4E42';
const GRID = '#CFC4B6';
const SHADE = '#E9E2D8';
const AXIS = 34;
/** A steady voltage is drawn steady: the axis spans so much at least. */
const LEAST_VOLTS = 1;

interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

function line(doc: Doc, points: readonly (readonly [number, number])[], isDashed: boolean): void {
  points.forEach(([x, y], index) => (index === 0 ? doc.moveTo(x, y) : doc.lineTo(x, y)));
  doc.lineWidth(1.4).strokeColor(INK);
  if (isDashed) doc.dash(3, { space: 2 });
  doc.stroke().undash();
}

function label(
  doc: Doc,
  text: string,
  x: number,
  y: number,
  align: 'left' | 'right' | 'center',
  width = AXIS * 2,
): void {
  const from = align === 'left' ? x : align === 'right' ? x - width : x - width / 2;
  doc.font('regular').fontSize(7.5).fillColor(FAINT).text(text, from, y, { width, align, lineBreak: false });
}

/** A little room above and below, so that no line lies on the frame. */
function padded(values: readonly number[], least: number): [number, number] {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const middle = (low + high) / 2;
  const half = (Math.max(least, high - low) / 2) * 1.2;
  return [middle - half, middle + half];
}

/** Volts as a full line, amperes dashed, and shaded what proved it full. */
export function drawCurve(doc: Doc, curve: Curve, box: Box): void {
  const { hours, volts, amps, window } = curve;
  const inner = { x: box.x + AXIS, y: box.y + 16, width: box.width - 2 * AXIS, height: box.height - 46 };
  const x = scaleLinear([0, Math.max(...hours) * 1.02], [inner.x, inner.x + inner.width]);
  const v = scaleLinear(padded(volts, LEAST_VOLTS), [inner.y + inner.height, inner.y]);
  const a = scaleLinear([0, Math.max(...(amps ?? [1])) * 1.12 + 1e-6], [inner.y + inner.height, inner.y]);
  doc.font('bold').fontSize(9).fillColor(INK).text(curve.title, box.x, box.y, { lineBreak: false });
  if (window) {
    doc
      .rect(x(window.from), inner.y, Math.max(1, x(window.to) - x(window.from)), inner.height)
      .fillColor(SHADE)
      .fill();
  }
  for (const tick of v.ticks(4)) {
    doc.moveTo(inner.x, v(tick)).lineTo(inner.x + inner.width, v(tick));
    doc.lineWidth(0.4).strokeColor(GRID).stroke();
    label(doc, `${tick.toFixed(1)} V`, inner.x - 3, v(tick) - 4, 'right');
  }
  if (amps)
    for (const tick of a.ticks(4)) label(doc, `${tick} A`, inner.x + inner.width + 3, a(tick) - 4, 'left');
  for (const tick of x.ticks(6)) label(doc, `${tick} h`, x(tick), inner.y + inner.height + 3, 'center');
  doc.rect(inner.x, inner.y, inner.width, inner.height).lineWidth(0.6).strokeColor(FAINT).stroke();
  line(
    doc,
    hours.map((hour, index) => [x(hour), v(volts[index] ?? 0)] as const),
    false,
  );
  if (amps)
    line(
      doc,
      hours.map((hour, index) => [x(hour), a(amps[index] ?? 0)] as const),
      true,
    );
  const key = [
    'full line: volts',
    ...(amps ? ['dashed: amperes'] : []),
    ...(window ? ['shaded: the stretch that proved it full'] : []),
  ].join(' · ');
  doc
    .font('regular')
    .fontSize(7.5)
    .fillColor(FAINT)
    .text(`${key}. ${curve.caption}`, box.x, inner.y + inner.height + 14, { width: box.width, height: 22 });
}

/** The job as a cord: thick where it charged, thin where it waited, a knot where hands were. */
export function drawCord(
  doc: Doc,
  segments: readonly Segment[],
  ends: { readonly from: string; readonly to: string },
  box: Box,
): void {
  const first = segments[0]?.from;
  const last = segments.at(-1)?.to;
  if (first === undefined || last === undefined || last <= first) return;
  const x = scaleLinear([first, last], [box.x + 3, box.x + box.width - 3]);
  const y = box.y + 7;
  for (const { kind, from, to } of segments) {
    doc
      .moveTo(x(from), y)
      .lineTo(x(to), y)
      .lineWidth(kind === 'charge' ? 6 : 1.2)
      .strokeColor(INK)
      .stroke();
  }
  for (const { kind, from } of segments)
    if (kind === 'hands') doc.circle(x(from), y, 2.2).lineWidth(1).fillAndStroke('#FFFFFF', INK);
  label(doc, ends.from, box.x, box.y + 15, 'left', 160);
  label(doc, ends.to, box.x + box.width, box.y + 15, 'right', 160);
  label(doc, 'thick: on charge · ring: hands', box.x + box.width / 2, box.y + 15, 'center', 180);
}
