/** What every paper of the shop shares: its letters and its codes. */
import { createRequire } from 'node:module';
import type PDFDocument from 'pdfkit';
import QRCode from 'qrcode';

export type Doc = InstanceType<typeof PDFDocument>;

const { resolve: locate } = createRequire(import.meta.url);
/** The whole font, not a part for one script: Ω stands on papers, and so does every European name. */
const fontFile = (weight: '400Regular' | '700Bold'): string =>
  locate(`@expo-google-fonts/commissioner/${weight}/Commissioner_${weight}.ttf`);

/** Draws a code that holds a text, as a square of this size, points. */
export function drawCode(doc: Doc, text: string, x: number, y: number, size: number): void {
  const { modules } = QRCode.create(text, { errorCorrectionLevel: 'M' });
  const cell = size / modules.size;
  for (let row = 0; row < modules.size; row++)
    for (let column = 0; column < modules.size; column++)
      if (modules.get(row, column)) doc.rect(x + column * cell, y + row * cell, cell, cell).fill();
}

/**
 * Writes a document with the shop's letters, "regular" and "bold".
 * What writes PDF is loaded with the first paper: the shop opens sooner without it.
 * @returns the PDF
 */
export async function written(
  options: PDFKit.PDFDocumentOptions,
  paint: (doc: Doc) => void,
): Promise<Buffer> {
  const { default: Writer } = await import('pdfkit');
  const doc = new Writer(options);
  doc.registerFont('regular', fontFile('400Regular'));
  doc.registerFont('bold', fontFile('700Bold'));
  const chunks: Buffer[] = [];
  const ended = new Promise((resolve, reject) => doc.once('end', resolve).once('error', reject));
  doc.on('data', (chunk: Buffer) => chunks.push(chunk));
  paint(doc);
  doc.end();
  await ended;
  return Buffer.concat(chunks);
}
