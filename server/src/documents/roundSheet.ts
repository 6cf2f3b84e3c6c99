/** A round on paper: what is to be read, rack by rack, with room for what the meter says. */
import { dateText } from '@cork-ember/core/clock/clockText.ts';
import type { Shelved } from '@cork-ember/core/shelf/overview.ts';
import { placeName } from '@cork-ember/core/shelf/places.ts';
import { saidOf } from '@cork-ember/core/shelf/words.ts';
import { verbatim } from '@cork-ember/core/units/localise.ts';
import type { CalendarNeeds } from './shelfCalendar.ts';
import { written, type Doc } from './paper.ts';

const MARGIN = 40;
const ROW = 30;
const COLUMNS = [
  { head: 'Tag', x: 40, width: 70 },
  { head: 'What, and where', x: 112, width: 170 },
  { head: 'Expected', x: 286, width: 56 },
  { head: 'Read, V', x: 346, width: 66 },
  { head: '°C', x: 416, width: 44 },
  { head: 'Why', x: 466, width: 90 },
] as const;

type Column = (typeof COLUMNS)[number];

function line(doc: Doc, font: string, size: number, words: string, { x, width }: Column, y: number): void {
  doc
    .font(font)
    .fontSize(size)
    .text(words, x, y, { width, height: ROW - 4, ellipsis: true });
}

function heads(doc: Doc, y: number): void {
  for (const column of COLUMNS) line(doc, 'bold', 9, column.head, column, y);
}

/** @param toRead in the order one walks */
export function roundSheet(toRead: readonly Shelved[], needs: CalendarNeeds): Promise<Buffer> {
  const { shop, timeZone, region, now } = needs;
  return written({ size: 'A4', margin: MARGIN, info: { Title: 'Round' } }, region, (doc) => {
    const [expected, volts, warmth] = [COLUMNS[2], COLUMNS[3], COLUMNS[4]];
    doc.font('bold').fontSize(18).text('Round along the shelf', MARGIN, MARGIN);
    doc
      .font('regular')
      .fontSize(10)
      .text(`${verbatim(shop)}, ${dateText(now, timeZone)}. Nothing connected; meter across the posts.`);
    let y = MARGIN + 50;
    heads(doc, y);
    y += 18;
    for (const one of toRead) {
      if (y + ROW > doc.page.height - MARGIN) {
        doc.addPage();
        y = MARGIN;
        heads(doc, y);
        y += 18;
      }
      line(doc, 'bold', 11, one.tag, COLUMNS[0], y);
      const where = one.place ? verbatim(placeName(one.place)) : '';
      line(doc, 'regular', 9, `${one.type}\n${where}`, COLUMNS[1], y);
      if (one.prediction)
        line(doc, 'regular', 11, `${one.prediction.volts.likely.toFixed(2)} V`, expected, y);
      for (const box of [volts, warmth])
        doc
          .lineWidth(0.7)
          .rect(box.x, y - 2, box.width - 6, ROW - 8)
          .stroke();
      line(doc, 'regular', 8, saidOf(one, now, timeZone).words, COLUMNS[5], y);
      y += ROW;
    }
    if (toRead.length === 0) doc.font('regular').fontSize(11).text('Nothing is to be read.', MARGIN, y);
  });
}
