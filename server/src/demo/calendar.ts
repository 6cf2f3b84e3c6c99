/** The demo's days: moments told by the clock, so that it begins alike whenever it begins. */
import { TZDate } from '@date-fns/tz';
import { addMonths, format, startOfDay } from 'date-fns';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { nextOpenMoment } from '@cork-ember/core/clock/shopHours.ts';
import { idOf } from './ids.ts';
import { Story, type Piece } from './story.ts';

export const MINUTE = 60_000;
export const DAY = 24 * 60 * MINUTE;
/** What was opened so long ago is over, ms. */
const LONG_AGO_MS = 7 * DAY;

export class Calendar {
  readonly shop: Shop;
  readonly now: number;
  private readonly midnight: number;

  constructor(shop: Shop, now: number) {
    this.shop = shop;
    this.now = now;
    this.midnight = startOfDay(new TZDate(now, shop.hours.timeZone)).getTime();
  }

  /** "07:32" on this day or some days before; a day the shop is closed goes to the next open one. */
  at(clock: string, daysAgo = 0): number {
    const [hour = 0, minute = 0] = clock.split(':').map(Number);
    const asked = this.midnight - daysAgo * DAY + (hour * 60 + minute) * MINUTE;
    const open = nextOpenMoment(this.shop.hours, asked);
    return open < this.midnight || daysAgo === 0 ? open : asked - 3 * DAY;
  }

  /** Days ago, so that nothing of it is at hand. */
  isLongAgo(at: number): boolean {
    return this.now - at > LONG_AGO_MS;
  }

  /** Date code some months back. */
  month(monthsAgo: number): string {
    return format(addMonths(new TZDate(this.now, this.shop.hours.timeZone), -monthsAgo), 'yyyy-MM');
  }
}

export interface Sketch {
  readonly tag: string;
  readonly typeId: string;
  readonly owner: string;
  readonly bay: number;
  readonly by: string;
  readonly opened: number;
  readonly promisedAt: number;
  readonly ageMonths: number;
  /** For a battery brought back; the kind's own otherwise. */
  readonly procedure?: string;
  /** How often it has been here, this time included; once where it is left out. */
  readonly visit?: number;
}

export function story(calendar: Calendar, sketch: Sketch): Story {
  const { tag, typeId, owner, bay, by, promisedAt, ageMonths } = sketch;
  const piece: Piece = {
    id: idOf(tag, sketch.visit),
    tag,
    typeId,
    owner,
    bay,
    by,
    promisedAt,
    serial: `${tag.replace('SK-', '')}-${ageMonths}`,
    dateCode: calendar.month(ageMonths),
    isLongAgo: calendar.isLongAgo(sketch.opened),
  };
  return new Story(piece, calendar.shop, sketch.opened, sketch.procedure);
}
