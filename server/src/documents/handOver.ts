/** What goes with a battery that is taken off the shelf: what it is, how it stands today, what to look after, or when it is due back. */
import { TZDate } from '@date-fns/tz';
import { addMonths } from 'date-fns';
import { dateText } from '@cork-ember/core/clock/clockText.ts';
import { isTaken, type ListedType } from '@cork-ember/core/battery/types.ts';
import type { Shelved } from '@cork-ember/core/shelf/overview.ts';
import { verbatim } from '@cork-ember/core/units/localise.ts';
import { ownerCautions, usedCautions, type Row } from './content.ts';
import { drawCode, written, type Doc } from './paper.ts';
import type { CalendarNeeds } from './shelfCalendar.ts';

const MARGIN = 48;
const LABELS = 150;
const CODE = 84;

/** One that was recovered is handed on as used, whatever it grades (handbook 3.6). */
const isUsed = ({ grade }: Shelved): boolean => grade !== null;

function factRows(one: Shelved, timeZone: string): readonly Row[] {
  const { type, dateCode, chargedAt, lastRead, prediction, grade, place } = one;
  const date = (at: number): string => dateText(at, timeZone);
  return [
    ['Battery', `${type}${dateCode === '' ? '' : `, made ${verbatim(dateCode)}`}`],
    ...(isUsed(one) ? [['Used', `recovered and tested, grade ${grade ?? ''}`] as const] : []),
    ...(chargedAt === undefined ? [] : [['Last charged', date(chargedAt)] as const]),
    ...(lastRead ? [['Last read', `${lastRead.volts.toFixed(2)} V, ${date(lastRead.at)}`] as const] : []),
    ...(prediction ? [['Rests today at', `about ${prediction.volts.likely.toFixed(2)} V`] as const] : []),
    ...(one.set === undefined ? [] : [['In the set', verbatim(one.set)] as const]),
    ...(place?.to === undefined ? [] : [['For', verbatim(place.to)] as const]),
  ];
}

function nextRows(one: Shelved, { now, timeZone }: CalendarNeeds): readonly Row[] {
  const on = (months: number): string =>
    dateText(addMonths(new TZDate(now, timeZone), months).getTime(), timeZone);
  if (one.place?.kind === 'lent')
    return [
      ['It stays ours', 'a loan until yours is ready; it comes back charged, or is charged here'],
      ['We ask after it', on(1)],
    ];
  return [
    ['Look at it', `${on(1)}, and every month: at rest above ${one.rechargeV.toFixed(2)} V`],
    ['Charge it', `at once when it reads less, and by ${on(3)} whatever it reads`],
  ];
}

function rows(doc: Doc, title: string, all: readonly Row[]): void {
  doc.moveDown(0.8).font('bold').fontSize(12).text(title, MARGIN);
  doc.moveDown(0.2);
  for (const [label, value] of all) {
    const { y } = doc;
    doc.font('regular').fontSize(10.5).text(label, MARGIN, y, { width: LABELS });
    doc.text(value, MARGIN + LABELS, y, { width: doc.page.width - 2 * MARGIN - LABELS });
    doc.moveDown(0.15);
  }
}

/** @param type of the battery, for what its owner is warned of */
export function handOverSheet(one: Shelved, type: ListedType, needs: CalendarNeeds): Promise<Buffer> {
  const { shop, timeZone, region, now } = needs;
  const title = one.place?.kind === 'lent' ? 'Loan slip' : 'Hand-over sheet';
  const cautions = isTaken(type)
    ? (isUsed(one) ? usedCautions : ownerCautions)(type.construction, type.cells)
    : [];
  return written({ size: 'A4', margin: MARGIN, info: { Title: `${title} ${one.tag}` } }, region, (doc) => {
    doc.fillColor('#000');
    drawCode(doc, one.tag, doc.page.width - MARGIN - CODE, MARGIN, CODE);
    doc.font('bold').fontSize(20).text(title, MARGIN, MARGIN);
    doc.fontSize(26).text(one.tag);
    doc
      .font('regular')
      .fontSize(10.5)
      .text(`${verbatim(shop)}, ${dateText(now, timeZone)}`);
    doc.y = Math.max(doc.y, MARGIN + CODE + 8);
    rows(doc, 'As it leaves the shelf', factRows(one, timeZone));
    rows(doc, 'Next', nextRows(one, needs));
    doc.moveDown(0.8).font('bold').fontSize(12).text('For your safety', MARGIN);
    doc.font('regular').fontSize(10);
    for (const caution of cautions) doc.moveDown(0.25).text(`• ${caution}`, MARGIN);
  });
}
