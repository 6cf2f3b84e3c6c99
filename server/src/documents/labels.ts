/** Tags to stick on batteries: a code to scan, the tag to read across the bench, what it is, how it stands. */
import { localised, verbatim } from '@cork-ember/core/units/localise.ts';
import type { Region } from '@cork-ember/core/units/region.ts';
import QRCode from 'qrcode';
import { shortName, type ListedType } from '@cork-ember/core/battery/types.ts';
import type { BatteryRecord, JobSummary } from '@cork-ember/core/contract/answers.ts';
import { dateText } from '@cork-ember/core/clock/clockText.ts';
import { drawCode, written, type Doc } from './paper.ts';

export interface Label {
  readonly tag: string;
  readonly type: string;
  readonly owner: string;
  readonly state: string;
}

const OUTCOMES = {
  certified: 'certified',
  returned: 'returned to the supplier',
  rejected: 'rejected, do not use',
  withdrawn: 'withdrawn',
  recovered: 'recovered, used,',
  retired: 'retired, to the recycler',
  charged: 'charged',
} as const;

/** What a battery's tag says at a moment. */
export function labelOf(
  { tag, owner, dateCode, typeId }: BatteryRecord,
  type: ListedType | undefined,
  last: JobSummary | undefined,
  timeZone: string,
): Label {
  const outcome = last?.outcome;
  const state =
    !last || !outcome
      ? `on the bench since ${dateText(last?.openedAt ?? 0, timeZone)}, not ready`
      : `${OUTCOMES[outcome]} ${dateText(last.endedAt ?? last.openedAt, timeZone)}`;
  return {
    tag,
    type: type ? `${verbatim(typeId)} · ${shortName(type)}` : verbatim(typeId),
    owner: `${verbatim(owner)}, made ${verbatim(dateCode)}`,
    state,
  };
}

/** One label, mm: fits a common 62 × 29 roll. */
const WIDTH_MM = 62;
const HEIGHT_MM = 29;
const POINTS_PER_MM = 72 / 25.4;
const MARGIN_MM = 2;
const CODE_MM = HEIGHT_MM - 2 * MARGIN_MM;

const escaped = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

/** A single label as a drawing. */
export async function labelSvg({ tag, type, owner, state }: Label, region: Region): Promise<string> {
  const code = await QRCode.toString(tag, { type: 'svg', margin: 0, errorCorrectionLevel: 'M' });
  const inner = /<svg[^>]*viewBox="0 0 (\d+) \d+"[^>]*>([\s\S]*)<\/svg>/.exec(code);
  const size = Number(inner?.[1] ?? 25);
  const left = MARGIN_MM * 2 + CODE_MM;
  const line = (y: number, mm: number, weight: number, words: string): string => {
    const text = localised(words, region);
    return `<text x="${left}" y="${y}" font-size="${mm}" font-weight="${weight}" textLength="${Math.min(WIDTH_MM - left - MARGIN_MM, text.length * mm * 0.56).toFixed(2)}" lengthAdjust="spacingAndGlyphs">${escaped(text)}</text>`;
  };
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH_MM}mm" height="${HEIGHT_MM}mm" viewBox="0 0 ${WIDTH_MM} ${HEIGHT_MM}" font-family="Commissioner, sans-serif">`,
    `<title>${escaped(tag)}</title>`,
    `<rect width="${WIDTH_MM}" height="${HEIGHT_MM}" fill="#fff"/>`,
    `<g transform="translate(${MARGIN_MM} ${MARGIN_MM}) scale(${(CODE_MM / size).toFixed(5)})">${inner?.[2] ?? ''}</g>`,
    line(8.5, 6, 700, tag),
    line(14.5, 2.7, 500, type),
    line(19.5, 2.7, 500, owner),
    line(24.5, 2.7, 700, state),
    '</svg>',
  ].join('\n');
}

function drawLabel(doc: Doc, { tag, type, owner, state }: Label, x: number, y: number): void {
  const mm = (value: number): number => value * POINTS_PER_MM;
  doc.fillColor('#000');
  drawCode(doc, tag, x + mm(MARGIN_MM), y + mm(MARGIN_MM), mm(CODE_MM));
  const left = x + mm(MARGIN_MM * 2 + CODE_MM);
  const width = mm(WIDTH_MM - CODE_MM - MARGIN_MM * 3);
  const line = (font: string, size: number, top: number, text: string): void => {
    doc
      .font(font)
      .fontSize(size)
      .text(text, left, y + mm(top), { width, height: size * 1.3, ellipsis: true, lineBreak: false });
  };
  line('bold', 16, 3, tag);
  line('regular', 7.5, 11.5, type);
  line('regular', 7.5, 16, owner);
  line('bold', 7.5, 20.5, state);
}

/** Sheet labels: 3 × 9 on A4, cut along the hairlines. */
const COLUMNS = 3;
const ROWS = 9;

/** Labels as a sheet to cut, or a single one at its own size. */
export function labelsPdf(labels: readonly Label[], region: Region): Promise<Buffer> {
  const mm = (value: number): number => value * POINTS_PER_MM;
  const isSingle = labels.length === 1;
  return written(
    {
      size: isSingle ? [mm(WIDTH_MM), mm(HEIGHT_MM)] : 'A4',
      margin: 0,
      autoFirstPage: false,
      info: { Title: isSingle ? (labels[0]?.tag ?? 'Tag') : `${labels.length} tags` },
    },
    region,
    (pdf) =>
      labels.forEach((label, index) => {
        const place = index % (COLUMNS * ROWS);
        if (place === 0) pdf.addPage();
        const x = isSingle ? 0 : mm(12 + (place % COLUMNS) * WIDTH_MM);
        const y = isSingle ? 0 : mm(14 + Math.floor(place / COLUMNS) * HEIGHT_MM);
        if (!isSingle)
          pdf.lineWidth(0.25).strokeColor('#bbb').rect(x, y, mm(WIDTH_MM), mm(HEIGHT_MM)).stroke();
        drawLabel(pdf, label, x, y);
      }),
  );
}
