/** A bay on the bench: its battery, how it stands, and its cord. */
import { memo } from 'react';
import { Link, useNavigate } from 'react-router';
import { shortName } from '@cork-ember/core/battery/types.ts';
import { whenText } from '@cork-ember/core/clock/clockText.ts';
import type { ShopHours } from '@cork-ember/core/clock/shopHours.ts';
import type { Bay, Quarantined } from '@cork-ember/core/contract/answers.ts';
import { SHELF } from '@cork-ember/core/runsheet/entries/place.ts';
import type { Outline } from '@cork-ember/core/runsheet/log/outline.ts';
import { atHand, type AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import { forecast } from '@cork-ember/core/runsheet/plan/forecast.ts';
import { lastReadingOf } from '@cork-ember/core/runsheet/state/looks.ts';
import { inSentence } from '@cork-ember/core/units/inSentence.ts';
import { Cord } from '../cord/Cord.tsx';
import { isInside, xOf, type TimeScale } from '../cord/scale.ts';
import type { BenchLayout } from './layout.ts';

type Mood = { readonly word: string; readonly tone: 'calm' | 'care' | 'stop' };

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

const TONES = { calm: 'text-verdigris', care: 'text-brass-ink', stop: 'text-clay' } as const;

function BayNumber({ bay }: { bay: number }) {
  return bay === SHELF ? (
    <span className="w-9 pl-1 text-[13px] leading-none font-bold text-cork-dark">shelf</span>
  ) : (
    <span className="w-9 pl-1 text-2xl leading-none font-bold text-cork-dark">{bay}</span>
  );
}

/** A line as narrow as on a phone has no room for how its battery stands: the ember says what burns, px. */
const LEAST_WITH_MOOD = 160;

/** A bay in one line. */
function LineLabel({ bay, tag, mood, isShort }: { bay: number; tag: string; mood: Mood; isShort: boolean }) {
  return (
    <>
      <span className="w-8 shrink-0 pl-1 font-bold text-cork-dark">{bay === SHELF ? 'shelf' : bay}</span>
      <span className="shrink-0 font-bold">{tag}</span>
      <span
        className={`min-w-0 truncate text-[13px] font-semibold ${TONES[mood.tone]} ${isShort ? 'sr-only' : ''}`}
      >
        {mood.word}
      </span>
    </>
  );
}

/** A row asks for its whole forecast: it is drawn anew with an entry or a few seconds on, not with every tick. */
export const BayRow = memo(function BayRow({
  bay,
  charger,
  job,
  now,
  scale,
  hours,
  layout,
  apart,
}: {
  bay: Bay;
  charger: string;
  job: Outline | undefined;
  /** What stands there though its record cannot be read. */
  apart?: Quarantined | undefined;
  now: number;
  scale: TimeScale;
  hours: ShopHours;
  layout: BenchLayout;
}) {
  const navigate = useNavigate();
  const { row: height, labels, isDense, hasDetails, hasWords } = layout;
  if (apart && !job)
    return (
      <li className="flex items-center border-b border-line" style={{ height }}>
        <span className="w-10 shrink-0 pl-1 text-2xl font-bold text-cork-dark">
          {bay.number === SHELF ? '' : bay.number}
        </span>
        <Link
          to={`/jobs/${apart.id}`}
          className="min-h-12 min-w-0 py-2 font-semibold text-clay underline underline-offset-4"
        >
          {apart.tag}: its record cannot be read. What stands in it
        </Link>
      </li>
    );
  if (!job)
    return (
      <li className="flex items-center border-b border-line" style={{ height }}>
        <span className={`w-10 shrink-0 pl-1 font-bold text-cork-dark ${isDense ? '' : 'text-2xl'}`}>
          {bay.number}
        </span>
        <Link
          to={`/intake?bay=${bay.number}`}
          className={`flex items-center truncate text-soft hover:text-char ${isDense ? 'h-full text-[15px]' : 'min-h-12'}`}
        >
          empty · {charger}
        </Link>
      </li>
    );
  const { state } = job;
  const { opened } = state;
  const hand = atHand(state, now);
  const mood = moodOf(hand, now);
  const drawn = forecast(state, now);
  const step = hand?.step;
  const reading =
    step?.charge && step.charge.pausedFor === undefined ? lastReadingOf(state, step.key) : undefined;
  const isPromiseAhead = !isInside(scale, opened.promisedAt);
  const readingText =
    reading &&
    `${reading.voltageV.toFixed(2)} V ${reading.currentA.toFixed(2)} A ${reading.tempC.toFixed(0)} °C`;
  const promised = `promised ${whenText(opened.promisedAt, now, hours.timeZone)}`;
  return (
    <li className="relative border-b border-line" style={{ height }}>
      <Link
        to={`/jobs/${state.job}`}
        className={`absolute inset-y-0 left-0 flex hover:bg-panel ${isDense ? 'items-center gap-2 text-[15px]' : 'items-start gap-1 pt-2'}`}
        style={{ width: labels }}
      >
        {isDense ? (
          <LineLabel
            bay={bay.number}
            tag={opened.battery.tag}
            mood={mood}
            isShort={labels < LEAST_WITH_MOOD}
          />
        ) : (
          <>
            <BayNumber bay={bay.number} />
            <span className="min-w-0 flex-1">
              <span className="block leading-tight font-bold">{opened.battery.tag}</span>
              <span className="block truncate text-[13px] leading-tight text-soft">
                {shortName(opened.type)}
              </span>
              <span className={`mt-0.5 block truncate text-[13px] font-semibold ${TONES[mood.tone]}`}>
                {mood.word}
              </span>
            </span>
            {hasDetails && (
              <span className="w-56 shrink-0 pr-3">
                <span className="block truncate leading-tight font-medium">{hand?.title}</span>
                <span className="reading block truncate text-[13px] leading-tight">
                  {readingText ?? '\u00a0'}
                </span>
                <span className="mt-0.5 block truncate text-[13px] text-verdigris">{promised}</span>
              </span>
            )}
          </>
        )}
      </Link>
      <svg
        width={scale.width}
        height={height}
        style={{ marginLeft: labels }}
        onClick={() => void navigate(`/jobs/${state.job}`)}
        role="img"
        aria-label={`${opened.battery.tag}: ${hand?.title ?? ''}, ${drawn.isOpenEnded ? 'next choice' : 'ready'} ${whenText(drawn.readyAt, now, hours.timeZone)}`}
        className="block cursor-pointer"
      >
        <Cord
          forecast={drawn}
          scale={scale}
          now={now}
          timeZone={hours.timeZone}
          y={isDense ? height / 2 : height * 0.55}
          promisedAt={opened.promisedAt}
          isAlarm={mood.tone === 'stop'}
          size={hasWords ? 'row' : 'line'}
        />
        {readingText !== undefined && !hasDetails && hasWords && (
          <text x={xOf(scale, now) + 14} y={height - 7} className="reading fill-char text-[12px]">
            {readingText}
          </text>
        )}
        {isPromiseAhead && !hasDetails && hasWords && (
          <text x={scale.width - 6} y={height - 7} textAnchor="end" className="fill-verdigris text-[11px]">
            {promised}
          </text>
        )}
      </svg>
    </li>
  );
});
