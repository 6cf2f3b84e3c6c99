/** The paper that leaves with a battery: a certificate when it passed, a note when it did not. */
import { verbatim } from '@cork-ember/core/units/localise.ts';
import type { Region } from '@cork-ember/core/units/region.ts';
import type { DocumentContent } from './content.ts';
import { drawCord, drawCurve, FAINT, INK } from './drawing.ts';
import type { Verdict } from './figures.ts';
import { drawCode, written, type Doc } from './paper.ts';

const CORK = '#9C7B52';
const MARGIN = 44;
const WIDTH = 595 - 2 * MARGIN;
const HEIGHT = 842;
/** Where the page's own number stands, below everything else. */
const FOOT = HEIGHT - 34;
const BOTTOM = FOOT - 12;
const QR_SIZE = 70;
const LABEL_WIDTH = 142;

/** Room a heading needs below it, so that it never stands alone at the foot of a page. */
const HEADING_ROOM = 52;

function room(doc: Doc, height: number): void {
  if (doc.y + height > BOTTOM) doc.addPage();
}

function heading(doc: Doc, text: string): void {
  room(doc, HEADING_ROOM);
  doc.moveDown(0.55).font('bold').fontSize(10.5).fillColor(INK).text(text, MARGIN);
  doc
    .moveTo(MARGIN, doc.y + 1)
    .lineTo(MARGIN + WIDTH, doc.y + 1)
    .lineWidth(0.75)
    .strokeColor(CORK)
    .stroke();
  doc.moveDown(0.35);
}

function row(doc: Doc, name: string, value: string): void {
  const valueWidth = WIDTH - LABEL_WIDTH - 8;
  doc.font('regular').fontSize(9.5);
  const high = Math.max(
    doc.heightOfString(name, { width: LABEL_WIDTH }),
    doc.heightOfString(value, { width: valueWidth }),
  );
  // A row stands on one page as a whole.
  room(doc, high);
  const { y } = doc;
  doc.fillColor(FAINT).text(name, MARGIN, y, { width: LABEL_WIDTH });
  doc.fillColor(INK).text(value, MARGIN + LABEL_WIDTH + 8, y, { width: valueWidth });
  doc.y = y + high + 1.5;
}

function sectionsOf(doc: Doc, sections: DocumentContent['sections']): void {
  for (const section of sections) {
    heading(doc, section.title);
    for (const [name, value] of section.rows) row(doc, name, value);
  }
}

/** The word one reads at arm's length, framed, and beside it what it means. */
function verdictOn(doc: Doc, { word, use }: Verdict): void {
  doc.font('bold').fontSize(25);
  const wordWidth = Math.min(WIDTH * 0.45, doc.widthOfString(word) + 34);
  const useWidth = WIDTH - wordWidth - 16;
  doc.font('regular').fontSize(11);
  const height = Math.max(46, doc.heightOfString(use, { width: useWidth }) + 12);
  const y = doc.y + 8;
  doc.lineWidth(2.4).strokeColor(INK).roundedRect(MARGIN, y, wordWidth, height, 4).stroke();
  doc.font('bold').fontSize(25).fillColor(INK);
  const size = doc.widthOfString(word) > wordWidth - 20 ? 17 : 25;
  doc.fontSize(size).text(word, MARGIN, y + height / 2 - size * 0.62, {
    width: wordWidth,
    align: 'center',
    lineBreak: false,
  });
  doc
    .font('regular')
    .fontSize(11)
    .text(use, MARGIN + wordWidth + 16, y + 6, { width: useWidth });
  doc.y = y + height + 4;
}

/** A few figures side by side, each readable from a step away. */
function figuresOn(doc: Doc, figures: DocumentContent['figures']): void {
  if (figures.length === 0) return;
  const width = WIDTH / figures.length;
  const y = doc.y + 8;
  let bottom = y;
  figures.forEach(({ label, value, note }, index) => {
    const x = MARGIN + index * width;
    const inner = width - 10;
    doc.font('regular').fontSize(8.5).fillColor(FAINT).text(label, x, y, { width: inner });
    doc.font('bold').fontSize(17).fillColor(INK);
    const size = doc.widthOfString(value) > inner ? 12 : 17;
    doc.fontSize(size).text(value, x, y + 11, { width: inner });
    doc.font('regular').fontSize(8.5).fillColor(FAINT).text(note, x, doc.y, { width: inner });
    bottom = Math.max(bottom, doc.y);
  });
  doc.y = bottom + 2;
}

function beforeAfterOn(doc: Doc, rows: DocumentContent['beforeAfter']): void {
  if (rows.length === 0) return;
  heading(doc, 'Before and after');
  const columns = [LABEL_WIDTH - 30, 150, 90, WIDTH - LABEL_WIDTH - 210] as const;
  const put = (cells: readonly string[], font: 'regular' | 'bold', color: string): void => {
    doc.font(font).fontSize(9.5);
    const high = Math.max(
      ...cells.map((cell, index) => doc.heightOfString(cell, { width: columns[index] ?? 90 })),
    );
    room(doc, high);
    const { y } = doc;
    let x = MARGIN;
    cells.forEach((cell, index) => {
      const width = columns[index] ?? 90;
      doc.fillColor(color).text(cell, x, y, { width });
      x += width + 10;
    });
    doc.y = y + high + 1.5;
  };
  put(['', 'before', 'after', 'gained'], 'regular', FAINT);
  for (const { what, before, after, gain } of rows) put([what, before, after, gain], 'regular', INK);
}

const CURVE_HEIGHT = 132;

function curvesOn(doc: Doc, curves: DocumentContent['curves']): void {
  const width = curves.length > 1 ? (WIDTH - 16) / 2 : WIDTH;
  if (curves.length === 0) return;
  room(doc, CURVE_HEIGHT + 12);
  const y = doc.y + 10;
  curves.slice(0, 2).forEach((curve, index) => {
    drawCurve(doc, curve, { x: MARGIN + index * (width + 16), y, width, height: CURVE_HEIGHT });
  });
  doc.y = y + CURVE_HEIGHT;
}

const CORD_HEIGHT = 26;

function cordOn(doc: Doc, { cord, cordEnds }: DocumentContent): void {
  if (cord.length === 0 || !cordEnds) return;
  room(doc, CORD_HEIGHT + 10);
  const y = doc.y + 8;
  drawCord(doc, cord, cordEnds, { x: MARGIN, y, width: WIDTH, height: CORD_HEIGHT });
  doc.y = y + CORD_HEIGHT;
}

/** Two pictures to a row, each with its words under it. */
function pictures(doc: Doc, photos: readonly Picture[]): void {
  const width = (WIDTH - 16) / 2;
  const height = width * 0.75;
  heading(doc, 'Pictures');
  for (let index = 0; index < photos.length; index += 2) {
    room(doc, height + 40);
    const y = doc.y + 6;
    photos.slice(index, index + 2).forEach(({ bytes, caption }, column) => {
      const x = MARGIN + column * (width + 16);
      doc.image(bytes, x, y, { fit: [width, height], valign: 'bottom' });
      doc
        .font('regular')
        .fontSize(8.5)
        .fillColor(FAINT)
        .text(caption, x, y + height + 4, { width, height: 24, ellipsis: true });
    });
    doc.y = y + height + 30;
  }
}

function paint(doc: Doc, content: DocumentContent, stamp: Stamp, photos: readonly Picture[]): void {
  const textWidth = WIDTH - QR_SIZE - 16;
  doc.font('regular').fontSize(10.5).fillColor(FAINT).text(content.shop, MARGIN, MARGIN);
  doc
    .font('bold')
    .fontSize(21)
    .fillColor(INK)
    .text(content.title, MARGIN, MARGIN + 15, { width: textWidth });
  doc.font('regular').fontSize(10.5).text(content.lead, { width: textWidth });
  for (const line of [content.replaces, replacedText(stamp)])
    if (line !== undefined) doc.font('bold').fontSize(9.5).text(line, { width: textWidth });
  drawCode(doc.fillColor(INK), stamp.url, MARGIN + WIDTH - QR_SIZE, MARGIN, QR_SIZE);
  doc
    .font('bold')
    .fontSize(9)
    .fillColor(INK)
    .text(content.tag, MARGIN + WIDTH - QR_SIZE - 20, MARGIN + QR_SIZE + 2, {
      width: QR_SIZE + 20,
      align: 'right',
    });
  doc
    .font('regular')
    .fontSize(8)
    .fillColor(FAINT)
    .text(stampText(stamp), MARGIN + WIDTH - QR_SIZE - 60, MARGIN + QR_SIZE + 14, {
      width: QR_SIZE + 60,
      align: 'right',
    });
  doc.y = Math.max(doc.y, MARGIN + QR_SIZE + 22);
  if (content.verdict) verdictOn(doc, content.verdict);
  figuresOn(doc, content.figures);
  beforeAfterOn(doc, content.beforeAfter);
  curvesOn(doc, content.curves);
  cordOn(doc, content);
  sectionsOf(doc, content.sections);
  heading(doc, content.cautionsTitle);
  doc.font('regular').fontSize(9).fillColor(INK);
  for (const caution of content.cautions) {
    room(doc, doc.heightOfString(`–  ${caution}`, { width: WIDTH }));
    doc.text(`–  ${caution}`, MARGIN, doc.y, { width: WIDTH });
  }
  room(doc, 30);
  doc.moveDown(0.8).font('bold').fontSize(10).text(content.signature, MARGIN, doc.y, { width: WIDTH });
  if (photos.length > 0) pictures(doc, photos);
  if (content.record.length > 0) {
    doc.addPage().font('bold').fontSize(13).fillColor(INK).text(`Record of ${content.tag}`, MARGIN, MARGIN);
    sectionsOf(doc, content.record);
  }
  numberPages(doc, `${content.title} ${content.tag} · ${stampText(stamp)}`);
}

/** Each page says which it is, and of how many. */
function numberPages(doc: Doc, title: string): void {
  const { start, count } = doc.bufferedPageRange();
  for (let page = start; page < start + count; page++) {
    doc.switchToPage(page);
    // The foot lies in the margin: without this the writer would begin a page for it.
    doc.page.margins.bottom = 0;
    doc
      .font('regular')
      .fontSize(8)
      .fillColor(FAINT)
      .text(`${title} · page ${page - start + 1} of ${count}`, MARGIN, FOOT, {
        width: WIDTH,
        align: 'center',
        lineBreak: false,
      });
  }
}

/** What tells one paper from another, and where it can be held against the record. */
export interface Stamp {
  readonly issue: number;
  readonly code: string;
  /** Page that says whether paper and record agree. */
  readonly url: string;
  /** The issue that has taken its place. */
  readonly replacedBy?: number;
}

const stampText = ({ issue, code }: Stamp): string => `issue ${issue} · ${verbatim(code)}`;

const replacedText = ({ replacedBy }: Stamp): string | undefined =>
  replacedBy === undefined ? undefined : `No longer valid: issue ${replacedBy} has taken its place.`;

interface Picture {
  readonly caption: string;
  /** JPEG */
  readonly bytes: Buffer;
}

/**
 * Sets words on paper.
 * @param region how the shop writes figures
 * @param stamp which issue it is
 * @param load gives the bytes of a picture by its id, where it is kept
 * @param at date of the paper, shop time, ms
 * @returns the PDF, A4
 */
export async function writeDocument(
  content: DocumentContent,
  at: number,
  region: Region,
  stamp: Stamp,
  load: (photo: string) => Promise<Buffer | undefined>,
): Promise<Buffer> {
  const found = await Promise.all(
    content.photos.map(async ({ id, caption }) => ({ caption, bytes: await load(id) })),
  );
  const photos = found.flatMap(({ caption, bytes }): Picture[] => (bytes ? [{ caption, bytes }] : []));
  return written(
    {
      size: 'A4',
      margin: MARGIN,
      bufferPages: true,
      info: { Title: `${content.title} ${content.tag}`, Author: content.shop, CreationDate: new Date(at) },
    },
    region,
    (doc) => paint(doc, content, stamp, photos),
  );
}
