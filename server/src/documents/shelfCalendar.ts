/** The month's work on the shelf as a calendar (RFC 5545): a day an entry, tags and racks in it and nobody's name. */
import { TZDate } from '@date-fns/tz';
import ical from 'ical-generator';
import { dayWords, type ShelfDay, type Task } from '@cork-ember/core/shelf/month.ts';
import { placeName, type Place } from '@cork-ember/core/shelf/places.ts';
import { doesOf } from '@cork-ember/core/shelf/words.ts';
import { localised } from '@cork-ember/core/units/localise.ts';
import type { Region } from '@cork-ember/core/units/region.ts';

/** A rack is named; a machine, or who has one, may tell whose it is. */
const whereIs = ({ kind, name }: Place): string =>
  kind === 'shelf' || kind === 'cold' || kind === 'maintainer'
    ? placeName({ kind, name })
    : placeName({ kind, name: '' });

const taskWords = ({ one, want }: Task): string =>
  [
    `${one.tag}: ${doesOf(want)}`,
    ...(one.place ? [whereIs(one.place)] : []),
    ...(one.prediction ? [`about ${one.prediction.volts.likely.toFixed(2)} V`] : []),
  ].join(', ');

/** Midnight UTC of the day it is in the shop: what a calendar takes for a whole day. */
function dayOf(at: number, timeZone: string): Date {
  const local = new TZDate(at, timeZone);
  return new Date(Date.UTC(local.getFullYear(), local.getMonth(), local.getDate()));
}

export interface CalendarNeeds {
  readonly shop: string;
  readonly timeZone: string;
  readonly region: Region;
  readonly now: number;
}

/** @returns the calendar's text, one whole-day entry for each day with work */
export function shelfCalendar(
  days: readonly ShelfDay[],
  { shop, timeZone, region, now }: CalendarNeeds,
): string {
  const calendar = ical({
    name: `${shop}: the shelf`,
    prodId: { company: 'cork-ember', product: 'shelf' },
    ttl: 3600,
  });
  for (const day of days) {
    const start = dayOf(day.at, timeZone);
    calendar.createEvent({
      id: `shelf-${start.toISOString().slice(0, 10)}@cork-ember`,
      stamp: new Date(now),
      start,
      allDay: true,
      summary: localised(`Shelf: ${dayWords(day)}`, region),
      description: localised(day.tasks.map(taskWords).join('\n'), region),
    });
  }
  return calendar.toString();
}
