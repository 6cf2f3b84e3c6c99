/** The bench as its page draws it, worked out: by the server for a page just opened, by the page itself from then on. */
import { shortName } from '../../battery/types.ts';
import { inSentence } from '../../units/inSentence.ts';
import type { JobState } from '../state/jobState.ts';
import { lastReadingOf } from '../state/looks.ts';
import { atHand, type AtHand } from './atHand.ts';
import { forecast, type Forecast } from './forecast.ts';
import type { Hand } from './hand.ts';

export interface Mood {
  /** How the battery stands, in a few words. */
  readonly word: string;
  readonly tone: 'calm' | 'care' | 'stop';
}

/** What a charge showed when it was last looked at. */
export interface Shown {
  readonly voltageV: number;
  readonly currentA: number;
  readonly tempC: number;
}

/** A battery on the bench. */
export interface BayPicture {
  readonly job: string;
  readonly bay: number;
  readonly tag: string;
  /** Its type, short. */
  readonly type: string;
  readonly mood: Mood;
  /** What hands do next. */
  readonly title: string;
  /** Only while current flows. */
  readonly shown?: Shown;
  readonly forecast: Forecast;
  readonly promisedAt: number;
}

/** The whole bench at a moment. */
export interface BenchPicture {
  /** By bay. */
  readonly bays: readonly BayPicture[];
  readonly hands: readonly Hand[];
}

/** A job where it stands, and the moment of its last entry. */
interface Standing {
  readonly state: JobState;
  readonly at: number;
}

function moodOf(hand: AtHand | undefined, now: number): Mood {
  if (!hand) return { word: '', tone: 'calm' };
  if (hand.phase === 'tooHot') return { word: 'too hot', tone: 'stop' };
  if (hand.phase === 'cooling') return { word: 'cooling, charger off', tone: 'care' };
  if (hand.phase === 'over') return { word: 'stopped for good', tone: 'stop' };
  if (hand.phase === 'stopped') return { word: 'charge paused', tone: 'care' };
  if (hand.hold) return { word: 'blocked', tone: 'stop' };
  if (now >= hand.overdueAt) return { word: 'overdue', tone: 'stop' };
  const words = {
    dwell: inSentence(hand.definition.title),
    charge: hand.phase === 'ready' ? 'ready to charge' : inSentence(hand.definition.title),
  };
  return {
    word:
      words[hand.definition.kind as 'dwell' | 'charge'] ?? (now >= hand.dueAt ? 'hands due' : 'under way'),
    tone: 'calm',
  };
}

/**
 * One battery as it stands.
 * @param now shop time, ms; before its last entry it counts as then
 */
export function bayPicture({ state, at }: Standing, now: number): BayPicture {
  const moment = Math.max(now, at);
  const { opened, job, bay } = state;
  const hand = atHand(state, moment);
  const step = hand?.step;
  const reading =
    step?.charge && step.charge.pausedFor === undefined ? lastReadingOf(state, step.key) : undefined;
  return {
    job,
    bay,
    tag: opened.battery.tag,
    type: shortName(opened.type),
    mood: moodOf(hand, moment),
    title: hand?.title ?? '',
    ...(reading && {
      shown: { voltageV: reading.voltageV, currentA: reading.currentA, tempC: reading.tempC },
    }),
    forecast: forecast(state, moment),
    promisedAt: opened.promisedAt,
  };
}

/** By bay, as the bench shows them. */
export const byBay = (a: { readonly bay: number }, b: { readonly bay: number }): number => a.bay - b.bay;
