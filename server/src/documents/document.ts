/** The paper that leaves with a battery: a certificate when it passed, a note when it did not. */
import PDFDocument from 'pdfkit';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import type { JobState } from '@cork-ember/core/runsheet/state.ts';
import { contentOf, type DocumentContent } from './content.ts';
import { bytesOf, drawCode, registerFonts, type Doc } from './paper.ts';

const INK = '#241E1A';
const FAINT = '#6B5B4D';
const CORK = '#C8A47A';
const MARGIN = 56;
const WIDTH = 595 - 2 * MARGIN;
const QR_SIZE = 78;

function heading(doc: Doc, text: string): void {
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
  const y = doc.y;
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

function paint(doc: Doc, content: DocumentContent): void {
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
  if (content.record.length === 0) return;
  doc.addPage().font('bold').fontSize(13).fillColor(INK).text(`Record of ${content.tag}`, MARGIN, MARGIN);
  sectionsOf(doc, content.record);
}

/**
 * Writes the document of an ended job.
 * @returns the PDF, A4
 */
export function writeDocument(state: JobState, shop: Shop): Promise<Buffer> {
  const content = contentOf(state, shop);
  const doc = new PDFDocument({
    size: 'A4',
    margin: MARGIN,
    info: {
      Title: `${content.title} ${content.tag}`,
      Author: content.shop,
      CreationDate: new Date(state.endedAt ?? state.openedAt),
    },
  });
  registerFonts(doc);
  const written = bytesOf(doc);
  paint(doc, content);
  doc.end();
  return written;
}
