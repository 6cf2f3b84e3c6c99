/** What every paper of the shop shares: its letters and its codes. */
import { createRequire } from 'node:module';
import { localised } from '@cork-ember/core/units/localise.ts';
import type { Region } from '@cork-ember/core/units/region.ts';
import type PDFDocument from 'pdfkit';
import QRCode from 'qrcode';
import { VERSION } from '../version.ts';

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
    for (let column = 0; column < modules.size; column++) {
      const from = column;
      while (column < modules.size && modules.get(row, column)) column += 1;
      if (column > from) doc.rect(x + from * cell, y + row * cell, (column - from) * cell, cell);
    }
  doc.fill();
}

/** Every text that is measured or set is the region's: the words of a paper are the core's, in SI units. */
function inRegion(doc: Doc, region: Region): void {
  const [text, width, height] = [
    doc.text.bind(doc),
    doc.widthOfString.bind(doc),
    doc.heightOfString.bind(doc),
  ];
  Object.assign(doc, {
    text: (words: string, ...rest: unknown[]) =>
      Reflect.apply(text, doc, [localised(words, region), ...rest]),
    widthOfString: (words: string, ...rest: []) => width(localised(words, region), ...rest),
    heightOfString: (words: string, ...rest: []) => height(localised(words, region), ...rest),
  });
}

/**
 * Writes a document with the shop's letters, "regular" and "bold", and in its region's figures.
 * What writes PDF is loaded with the first paper: the shop opens sooner without it.
 * @returns the PDF
 */
export async function written(
  options: PDFKit.PDFDocumentOptions,
  region: Region,
  paint: (doc: Doc) => void | Promise<void>,
): Promise<Buffer> {
  const { default: Writer } = await import('pdfkit');
  const doc = new Writer({ ...options, info: { ...options.info, Producer: `Cork Ember ${VERSION}` } });
  doc.registerFont('regular', fontFile('400Regular'));
  doc.registerFont('bold', fontFile('700Bold'));
  inRegion(doc, region);
  const chunks: Buffer[] = [];
  const ended = new Promise((resolve, reject) => doc.once('end', resolve).once('error', reject));
  doc.on('data', (chunk: Buffer) => chunks.push(chunk));
  await paint(doc);
  doc.end();
  await ended;
  return Buffer.concat(chunks);
}
