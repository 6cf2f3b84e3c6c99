/** The paper that leaves with a battery: a certificate when it passed, a note when it did not. */
import type { DocumentContent } from './content.ts';
import { drawCode, written, type Doc } from './paper.ts';

const INK = '#241E1A';
const FAINT = '#6B5B4D';
const CORK = '#C8A47A';
const MARGIN = 56;
const WIDTH = 595 - 2 * MARGIN;
const HEIGHT = 842;
const QR_SIZE = 78;

/** Room a heading needs below it, so that it never stands alone at the foot of a page. */
const HEADING_ROOM = 56;

function heading(doc: Doc, text: string): void {
  if (doc.y + HEADING_ROOM > HEIGHT - MARGIN) doc.addPage();
  doc.moveDown(0.9).font('bold').fontSize(10).fillColor(FAINT).text(text, MARGIN);
  doc
    .moveTo(MARGIN, doc.y + 2)
    .lineTo(MARGIN + WIDTH, doc.y + 2)
    .lineWidth(0.75)
    .strokeColor(CORK)
    .stroke();
  doc.moveDown(0.4);
}

function row(doc: Doc, label: string, value: string): void {
  doc.font('regular').fontSize(9.5);
  const high = Math.max(
    doc.heightOfString(label, { width: 150 }),
    doc.heightOfString(value, { width: WIDTH - 156 }),
  );
  if (doc.y + high > HEIGHT - MARGIN) doc.addPage();
  const { y } = doc;
  doc.font('regular').fontSize(9.5).fillColor(FAINT).text(label, MARGIN, y, { width: 150 });
  const labelEnd = doc.y;
  doc.fillColor(INK).text(value, MARGIN + 156, y, { width: WIDTH - 156 });
  doc.y = Math.max(doc.y, labelEnd) + 1.5;
}

function sectionsOf(doc: Doc, sections: DocumentContent['sections']): void {
  for (const section of sections) {
    heading(doc, section.title);
    for (const [label, value] of section.rows) row(doc, label, value);
  }
}

/** Two pictures to a row, each with its words under it. */
function pictures(doc: Doc, photos: readonly Picture[]): void {
  const width = (WIDTH - 16) / 2;
  const height = width * 0.75;
  heading(doc, 'Pictures');
  for (let index = 0; index < photos.length; index += 2) {
    if (doc.y + height + 40 > HEIGHT - MARGIN) doc.addPage();
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

function paint(doc: Doc, content: DocumentContent, photos: readonly Picture[]): void {
  doc.font('regular').fontSize(10).fillColor(FAINT).text(content.shop, MARGIN, MARGIN);
  doc
    .font('bold')
    .fontSize(22)
    .fillColor(INK)
    .text(content.title, MARGIN, MARGIN + 18, { width: WIDTH - QR_SIZE - 16 });
  doc
    .font('regular')
    .fontSize(11)
    .text(content.lead, { width: WIDTH - QR_SIZE - 16 });
  drawCode(doc.fillColor(INK), content.tag, MARGIN + WIDTH - QR_SIZE, MARGIN, QR_SIZE);
  doc
    .font('bold')
    .fontSize(9)
    .fillColor(INK)
    .text(content.tag, MARGIN + WIDTH - QR_SIZE, MARGIN + QR_SIZE + 4, { width: QR_SIZE, align: 'center' });
  doc.y = Math.max(doc.y, MARGIN + QR_SIZE + 14);
  sectionsOf(doc, content.sections);
  heading(doc, content.cautionsTitle);
  for (const caution of content.cautions)
    doc.font('regular').fontSize(9).fillColor(INK).text(`–  ${caution}`, MARGIN, doc.y, { width: WIDTH });
  doc.moveDown(1.2).fontSize(10).text(content.signature, MARGIN, doc.y, { width: WIDTH });
  if (photos.length > 0) pictures(doc, photos);
  if (content.record.length === 0) return;
  doc.addPage().font('bold').fontSize(13).fillColor(INK).text(`Record of ${content.tag}`, MARGIN, MARGIN);
  sectionsOf(doc, content.record);
}

interface Picture {
  readonly caption: string;
  /** JPEG */
  readonly bytes: Buffer;
}

/**
 * Sets words on paper.
 * @param load gives the bytes of a picture by its id
 * @param at date of the paper, shop time, ms
 * @returns the PDF, A4
 */
export async function writeDocument(
  content: DocumentContent,
  at: number,
  load: (photo: string) => Promise<Buffer>,
): Promise<Buffer> {
  const photos = await Promise.all(
    content.photos.map(async ({ id, caption }) => ({ caption, bytes: await load(id) })),
  );
  return written(
    {
      size: 'A4',
      margin: MARGIN,
      info: { Title: `${content.title} ${content.tag}`, Author: content.shop, CreationDate: new Date(at) },
    },
    (doc) => paint(doc, content, photos),
  );
}
