/** What every paper of the shop shares: its letters and its codes. */
import { createRequire } from 'node:module';
import type PDFDocument from 'pdfkit';
import QRCode from 'qrcode';

export type Doc = InstanceType<typeof PDFDocument>;

const resolve = createRequire(import.meta.url).resolve;
const fontFile = (weight: number): string =>
  resolve(`@fontsource/commissioner/files/commissioner-latin-${weight}-normal.woff`);

/** Makes "regular" and "bold" known to a document. */
export function registerFonts(doc: Doc): void {
  doc.registerFont('regular', fontFile(400));
  doc.registerFont('bold', fontFile(600));
}

/** Draws a code that holds a text, as a square of this size, points. */
export function drawCode(doc: Doc, text: string, x: number, y: number, size: number): void {
  const { modules } = QRCode.create(text, { errorCorrectionLevel: 'M' });
  const cell = size / modules.size;
  for (let row = 0; row < modules.size; row++)
    for (let column = 0; column < modules.size; column++)
      if (modules.get(row, column)) doc.rect(x + column * cell, y + row * cell, cell, cell).fill();
}

/** Everything a document wrote, once it has ended. */
export function bytesOf(doc: Doc): Promise<Buffer> {
  const chunks: Buffer[] = [];
  doc.on('data', (chunk: Buffer) => chunks.push(chunk));
  return new Promise((done, fail) => {
    doc.on('end', () => done(Buffer.concat(chunks)));
    doc.on('error', fail);
  });
}
