/**
 * Alarms that reach a person across the room: tones, the page's title and icon, a notification, a lit screen. They live beside
 * the interface, not in it: no view that fails and no call a browser refuses can stop them.
 */
import { useSyncExternalStore } from 'react';
import {
  alarmsOf,
  EVERY_MS,
  sounding,
  type Alarm,
  type Heard,
} from '@cork-ember/core/runsheet/plan/alarm.ts';
import type { LiveBay } from '@cork-ember/core/devices/bay/messages.ts';
import type { Hand } from '@cork-ember/core/runsheet/plan/hand.ts';
import { standsText } from '@cork-ember/core/runsheet/entries/place.ts';
import { benchSource, watchBench } from '../api/bench.ts';
import { sentenceOf } from '../api/client.ts';
import { shopNow, useMinute, watchClock } from '../api/clock.ts';
import { realNow } from '../api/realTime.ts';
import { callingBays, watchShown } from '../api/shown.ts';
import { inShop } from '../region/shopRegion.ts';
import { titleCall } from '../ui/title.ts';
import { askToCall } from './permission.ts';
import { isSoundAwake, play, prepareSound, wakeSound } from './tones.ts';

const KEY = 'cork-ember-alarms';

interface Calling {
  /** Shop time at which it last became another. */
  readonly at: number;
  /** Whether it is known what stands on the bench. */
  readonly isKnown: boolean;
  /** Everything the bench wants of hands, in order of time. */
  readonly hands: readonly Hand[];
  /** What calls now and was not heard yet. */
  readonly alarm: Alarm | undefined;
  /** It calls, but the browser lets no tone out before the page is touched once. */
  readonly isSilent: boolean;
  readonly isDangerOnly: boolean;
  /** Why the bench could not be looked at, where it could not. */
  readonly failed?: string;
}

let heard: Heard = {};
let played: Readonly<Record<string, number>> = {};
let calling: Calling = {
  at: 0,
  isKnown: false,
  hands: [],
  alarm: undefined,
  isSilent: false,
  isDangerOnly: isDangerOnlyKept(),
};
const watchers = new Set<() => void>();

function isDangerOnlyKept(): boolean {
  return localStorage.getItem(KEY) === 'danger';
}

const ICON_COLOURS = {
  danger: '%239b2c2c',
  overdue: '%23d9480f',
  due: '%23d9480f',
  none: '%23241e1a',
} as const;

/** A flame on a disc; the disc says how urgent. */
function iconFor(level: keyof typeof ICON_COLOURS): string {
  const disc = `<circle cx='16' cy='16' r='16' fill='${ICON_COLOURS[level]}'/>`;
  const flame = `<path d='M16 5c5 6 7 9 7 13a7 7 0 0 1-14 0c0-3 2-5 4-8 1 3 2 4 3 4 1-2 1-5 0-9z' fill='%23f6f0e6'/>`;
  return `data:image/svg+xml,<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 32 32'>${disc}${flame}</svg>`;
}

let shownKey: string | undefined = 'nothing yet';

function showOnPage(alarm: Alarm | undefined): void {
  if (shownKey === alarm?.key) return;
  shownKey = alarm?.key;
  titleCall(alarm && inShop(`${alarm.hand.title} · ${alarm.hand.tag}`));
  const link =
    document.querySelector<HTMLLinkElement>('link[rel="icon"]') ??
    document.head.appendChild(Object.assign(document.createElement('link'), { rel: 'icon' }));
  link.href = iconFor(alarm?.level ?? 'none');
}

function notify({ level, hand }: Alarm): void {
  if (!('Notification' in window) || Notification.permission !== 'granted' || !document.hidden) return;
  try {
    new Notification(inShop(`${hand.title}: ${hand.tag}`), {
      body: inShop(hand.note === '' ? standsText(hand.bay) : hand.note),
      tag: hand.job,
      requireInteraction: level === 'danger',
    });
  } catch {
    // Some browsers let only a service worker call: tones and title go on.
  }
}

function sound(alarm: Alarm, now: number): void {
  const last = played[alarm.key];
  if (last !== undefined && now - last < EVERY_MS[alarm.level]) return;
  if (last === undefined) notify(alarm);
  played = { ...played, [alarm.key]: now };
  play(alarm.level);
}

let lock: WakeLockSentinel | undefined;
let isTakingLock = false;

/** Keeps the screen lit while something is on the bench, where the browser can. */
function keepLit(): void {
  if (!('wakeLock' in navigator)) return;
  if ((benchSource()?.count ?? 0) === 0) {
    void lock?.release().catch(() => undefined);
    lock = undefined;
    return;
  }
  if (isTakingLock || document.visibilityState !== 'visible' || lock?.released === false) return;
  isTakingLock = true;
  navigator.wakeLock
    .request('screen')
    .then((taken) => (lock = taken))
    .catch(() => undefined)
    .finally(() => (isTakingLock = false));
}

/** What the bench said last. */
let said: readonly Hand[] = [];
let saidBays: readonly LiveBay[] = [];

/** A bay that went off by itself wants hands before all else: what stands there, and why. */
function withBays(hands: readonly Hand[], bays: readonly LiveBay[]): readonly Hand[] {
  const calls = bays.flatMap(({ job, bay, calls: note = '' }): Hand[] => {
    const hand = hands.find((one) => one.job === job);
    if (!hand) return [];
    return [{ ...hand, stepKey: 'bay', title: `Bay ${bay} went off by itself`, note, urgency: 'danger' }];
  });
  return calls.length === 0 ? hands : [...calls, ...hands];
}

/** What the bench wants at a moment: the same list while nothing of it has changed. */
function handsAt(at: number): readonly Hand[] {
  const hands = (at === 0 ? undefined : benchSource()?.handsAt(at)) ?? [];
  const bays = callingBays();
  if (hands === said && bays === saidBays) return calling.hands;
  [said, saidBays] = [hands, bays];
  const all = withBays(hands, bays);
  return JSON.stringify(all) === JSON.stringify(calling.hands) ? calling.hands : all;
}

/** Whether nothing but the time has changed. */
function isAsBefore(next: Calling): boolean {
  const then: Calling = { ...next, at: calling.at };
  return (Object.keys({ ...calling, ...then }) as (keyof Calling)[]).every(
    (key) => calling[key] === then[key],
  );
}

function look(): void {
  const now = realNow();
  const at = shopNow();
  const hands = handsAt(at);
  const isDangerOnly = isDangerOnlyKept();
  const sounds = sounding(alarmsOf(hands), heard, isDangerOnly, now);
  // The same alarm stays the same thing.
  const alarm =
    sounds && calling.alarm && sounds.key === calling.alarm.key && sounds.hand === calling.alarm.hand
      ? calling.alarm
      : sounds;
  const next = {
    at,
    isKnown: benchSource() !== undefined,
    hands,
    alarm,
    isSilent: alarm !== undefined && !isSoundAwake(),
    isDangerOnly,
  };
  showOnPage(alarm);
  if (alarm) sound(alarm, now);
  keepLit();
  if (isAsBefore(next)) return;
  calling = next;
  for (const watcher of watchers) watcher();
}

/** Whatever is wrong with one look at the bench, the next one comes. */
function lookOn(): void {
  try {
    look();
  } catch (error) {
    calling = { ...calling, failed: sentenceOf(error) };
    for (const watcher of watchers) watcher();
  }
}

/** Everything that calls now was heard: it keeps still for a while. */
export function hear(): void {
  const now = realNow();
  heard = { ...heard, ...Object.fromEntries(alarmsOf(calling.hands).map(({ key }) => [key, now])) };
  lookOn();
}

/** Whether due and overdue keep still in this browser; danger never does. */
export function setDangerOnly(isOnly: boolean): void {
  localStorage.setItem(KEY, isOnly ? 'danger' : 'all');
  // A tap on the bell is a moment to ask: somebody wants to be called.
  if (!isOnly) void askToCall();
  lookOn();
}

function onKey(event: KeyboardEvent): void {
  wakeSound();
  if (!event.altKey || event.code !== 'KeyH') return;
  event.preventDefault();
  hear();
}

/** Begins to watch the bench, once for as long as the page is open. */
export function beginAlarms(): void {
  watchBench(lookOn);
  watchClock(lookOn);
  watchShown(lookOn);
  document.addEventListener('visibilitychange', lookOn);
  void prepareSound();
  window.addEventListener('pointerdown', wakeSound);
  window.addEventListener('keydown', onKey);
}

/** Shop time for views of the bench: it moves on with the minute, and at once when something falls due or is over. */
export function useBenchNow(): number {
  const { at } = useCalling();
  // An entry moves a job on between two seconds of the clock that is shown.
  return Math.max(useMinute(), at);
}

export function useCalling(): Calling {
  return useSyncExternalStore(
    (watcher) => {
      watchers.add(watcher);
      return () => watchers.delete(watcher);
    },
    () => calling,
  );
}
