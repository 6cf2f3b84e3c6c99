/** Tags to stick on batteries: a code to scan, the tag to read across the bench, what it is, how it stands. */
import { localised, verbatim } from '@cork-ember/core/units/localise.ts';
import type { Region } from '@cork-ember/core/units/region.ts';
import QRCode from 'qrcode';
import { shortName, type ListedType } from '@cork-ember/core/battery/types.ts';
import type { BatteryRecord, JobSummary } from '@cork-ember/core/contract/answers.ts';
import { TZDate } from '@date-fns/tz';
import { format } from 'date-fns';
import type { Want } from '@cork-ember/core/shelf/due.ts';
import type { Shelved } from '@cork-ember/core/shelf/overview.ts';
import { dateText } from '@cork-ember/core/clock/clockText.ts';
import { breather } from '../gently.ts';
import { drawCode, written, type Doc } from './paper.ts';

export interface Label {
  readonly tag: string;
  readonly type: string;
  readonly owner: string;
  readonly state: string;
  /** Off the bench: by when it is read and charged again, or which machine it is out of. */
  readonly next: string;
  /** Month and year it was charged, by number and by name: the oldest goes first. */
  readonly turn: string;
}

/** What a battery off the bench adds to its tag: when it was charged, at what it rested, what is next. */
function shelfWords({ due, chargedAt, lastRead, grade, place, dry, set }: Shelved, timeZone: string) {
  const by = (want: Want): number | undefined => due.find((one) => one.want === want)?.by;
  const [check, charge] = [by('read'), by('recharge')];
  const volts = lastRead ? `, ${lastRead.volts.toFixed(2)} V` : '';
  const next = [
    ...(set === undefined ? [] : [`set ${verbatim(set)}`]),
    ...(place?.kind === 'display' ? [`out of ${verbatim(place.name)}`] : []),
    ...(check === undefined ? [] : [`check by ${dateText(check, timeZone)}`]),
    ...(charge === undefined ? [] : [`recharge by ${dateText(charge, timeZone)}`]),
  ];
  return {
    ...(dry ? { state: 'not filled: fill and charge to order' } : {}),
    ...(chargedAt === undefined
      ? {}
      : {
          state: `charged ${dateText(chargedAt, timeZone)}${volts}${grade === null ? '' : `, grade ${grade}`}`,
          turn: format(new TZDate(chargedAt, timeZone), 'MM · MMMM yyyy'),
        }),
    next: next.join(', '),
  };
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
  shelved: Shelved | undefined,
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
    next: '',
    turn: '',
    // What stands on the shelf says more of it than the job it had.
    ...(shelved?.place ? shelfWords(shelved, timeZone) : {}),
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
export async function labelSvg(
  { tag, type, owner, state, next, turn }: Label,
  region: Region,
): Promise<string> {
  const code = await QRCode.toString(tag, { type: 'svg', margin: 0, errorCorrectionLevel: 'M' });
  const inner = /<svg[^>]*viewBox="0 0 (\d+) \d+"[^>]*>([\s\S]*)<\/svg>/.exec(code);
  const size = Number(inner?.[1] ?? 25);
  const left = MARGIN_MM * 2 + CODE_MM;
  const line = (y: number, mm: number, weight: number, words: string): string => {
    if (words === '') return '';
    const text = localised(words, region);
    return `<text x="${left}" y="${y}" font-size="${mm}" font-weight="${weight}" textLength="${Math.min(WIDTH_MM - left - MARGIN_MM, text.length * mm * 0.56).toFixed(2)}" lengthAdjust="spacingAndGlyphs">${escaped(text)}</text>`;
  };
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH_MM}mm" height="${HEIGHT_MM}mm" viewBox="0 0 ${WIDTH_MM} ${HEIGHT_MM}" font-family="Commissioner, sans-serif">`,
    `<title>${escaped(tag)}</title>`,
    `<rect width="${WIDTH_MM}" height="${HEIGHT_MM}" fill="#fff"/>`,
    `<g transform="translate(${MARGIN_MM} ${MARGIN_MM}) scale(${(CODE_MM / size).toFixed(5)})">${inner?.[2] ?? ''}</g>`,
    line(7.5, 5.5, 700, tag),
    line(11.5, 2.5, 500, type),
    line(15, 2.5, 500, owner),
    line(18.5, 2.5, 700, state),
    line(22, 2.5, 500, next),
    line(26.5, 3, 700, turn),
    '</svg>',
  ].join('\n');
}

function drawLabel(doc: Doc, { tag, type, owner, state, next, turn }: Label, x: number, y: number): void {
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
  line('bold', 15, 2, tag);
  line('regular', 7, 8.5, type);
  line('regular', 7, 12, owner);
  line('bold', 7, 15.5, state);
  line('regular', 7, 19, next);
  line('bold', 8.5, 23, turn);
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
    async (pdf) => {
      // A long sheet lets others in between.
      const breathe = breather();
      for (const [index, label] of labels.entries()) {
        const place = index % (COLUMNS * ROWS);
        if (place === 0) pdf.addPage();
        const x = isSingle ? 0 : mm(12 + (place % COLUMNS) * WIDTH_MM);
        const y = isSingle ? 0 : mm(14 + Math.floor(place / COLUMNS) * HEIGHT_MM);
        if (!isSingle)
          pdf.lineWidth(0.25).strokeColor('#bbb').rect(x, y, mm(WIDTH_MM), mm(HEIGHT_MM)).stroke();
        drawLabel(pdf, label, x, y);
        await breathe();
      }
    },
  );
}
