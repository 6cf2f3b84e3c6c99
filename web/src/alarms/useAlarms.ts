/** Alarms that reach a person across the room: tones, the page's title and icon, a notification, a lit screen. */
import { inShop } from '../region/shopRegion.ts';
import { useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { standsText } from '@cork-ember/core/runsheet/entries/place.ts';
import {
  alarmsOf,
  EVERY_MS,
  sounding,
  type Alarm,
  type Heard,
} from '@cork-ember/core/runsheet/plan/alarm.ts';
import type { Hand } from '@cork-ember/core/runsheet/plan/hands.ts';
import { realNow } from '../api/realTime.ts';
import { play, wakeSound } from './tones.ts';

const KEY = 'cork-ember-alarms';
const watchers = new Set<() => void>();

function isDangerOnlyKept(): boolean {
  return localStorage.getItem(KEY) === 'danger';
}

/** Whether due and overdue keep still in this browser; danger never does. */
export function useDangerOnly(): readonly [boolean, (isOnly: boolean) => void] {
  const isOnly = useSyncExternalStore((watcher) => {
    watchers.add(watcher);
    return () => watchers.delete(watcher);
  }, isDangerOnlyKept);
  const set = (next: boolean): void => {
    localStorage.setItem(KEY, next ? 'danger' : 'all');
    for (const watcher of watchers) watcher();
    // A tap on the bell is the moment to ask: not before anybody wanted to be called.
    if (!next && 'Notification' in window && Notification.permission === 'default')
      void Notification.requestPermission();
  };
  return [isOnly, set];
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

function showOnPage(alarm: Alarm | undefined): void {
  document.title = alarm ? inShop(`${alarm.hand.title} · ${alarm.hand.tag}`) : 'Cork Ember';
  const link =
    document.querySelector<HTMLLinkElement>('link[rel="icon"]') ??
    document.head.appendChild(Object.assign(document.createElement('link'), { rel: 'icon' }));
  link.href = iconFor(alarm?.level ?? 'none');
}

function notify({ level, hand }: Alarm): void {
  if (!('Notification' in window) || Notification.permission !== 'granted' || !document.hidden) return;
  new Notification(inShop(`${hand.title}: ${hand.tag}`), {
    body: inShop(hand.note === '' ? standsText(hand.bay) : hand.note),
    tag: hand.job,
    requireInteraction: level === 'danger',
  });
}

/** Keeps the screen lit while something is on the bench, where the browser can. */
function useWakeLock(isNeeded: boolean): void {
  useEffect(() => {
    if (!isNeeded || !('wakeLock' in navigator)) return;
    let lock: WakeLockSentinel | undefined;
    const take = (): void => {
      if (document.visibilityState === 'visible')
        navigator.wakeLock.request('screen').then(
          (taken) => (lock = taken),
          () => undefined,
        );
    };
    take();
    document.addEventListener('visibilitychange', take);
    return () => {
      document.removeEventListener('visibilitychange', take);
      void lock?.release();
    };
  }, [isNeeded]);
}

export interface Alarms {
  /** What calls now and was not heard yet. */
  readonly calling: Alarm | undefined;
  readonly hear: () => void;
}

const LOOK_EVERY_MS = 500;

export function useAlarms(hands: readonly Hand[], isBenchBusy: boolean): Alarms {
  const [isDangerOnly] = useDangerOnly();
  const [heard, setHeard] = useState<Heard>({});
  const [tick, setTick] = useState(0);
  const alarms = useMemo(() => alarmsOf(hands), [hands]);
  const calling = useMemo(
    () => sounding(alarms, heard, isDangerOnly, tick),
    [alarms, heard, isDangerOnly, tick],
  );
  const played = useRef<Record<string, number>>({});
  useWakeLock(isBenchBusy);
  useEffect(() => {
    const timer = setInterval(() => setTick(realNow()), LOOK_EVERY_MS);
    window.addEventListener('pointerdown', wakeSound);
    window.addEventListener('keydown', wakeSound);
    return () => {
      clearInterval(timer);
      window.removeEventListener('pointerdown', wakeSound);
      window.removeEventListener('keydown', wakeSound);
    };
  }, []);
  useEffect(() => {
    showOnPage(calling);
    if (!calling) return;
    const last = played.current[calling.key];
    if (last !== undefined && tick - last < EVERY_MS[calling.level]) return;
    if (last === undefined) notify(calling);
    played.current = { ...played.current, [calling.key]: tick };
    play(calling.level);
  }, [calling, tick]);
  const hear = (): void => {
    const now = realNow();
    setHeard({ ...heard, ...Object.fromEntries(alarms.map(({ key }) => [key, now])) });
  };
  return { calling, hear };
}
