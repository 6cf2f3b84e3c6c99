/** Bench: what is in each bay, how far along its cord, and what hands are needed next. */
import { stepAtHand } from '@cork-ember/core/contract/firstDay.ts';
import { inSentence } from '@cork-ember/core/units/inSentence.ts';
import { memo, useEffect, useMemo } from 'react';
import { Link, Navigate, useNavigate } from 'react-router';
import { SHELF } from '@cork-ember/core/runsheet/entries/place.ts';
import { shortName } from '@cork-ember/core/battery/types.ts';
import type { Bay, Quarantined } from '@cork-ember/core/contract/answers.ts';
import { atHand, type AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import type { Outline } from '@cork-ember/core/runsheet/log/outline.ts';
import { forecast } from '@cork-ember/core/runsheet/plan/forecast.ts';
import { nextHands } from '@cork-ember/core/runsheet/plan/hands.ts';
import { inTurn } from '@cork-ember/core/runsheet/plan/inTurn.ts';
import { lastReadingOf } from '@cork-ember/core/runsheet/state/looks.ts';
import { hourText } from '../cord/hourText.ts';
import { whenText } from '@cork-ember/core/clock/clockText.ts';
import { closedSpans, type ShopHours } from '@cork-ember/core/clock/shopHours.ts';
import { useNow } from '../api/clock.ts';
import { useOpenJobs, useQuarantined, useShop } from '../api/queries.ts';
import { chargerName } from '../ui/chargerName.ts';
import { Cord } from '../cord/Cord.tsx';
import { axisHours, isInside, xOf, type TimeScale } from '../cord/scale.ts';
import { useWidth } from '../cord/useWidth.ts';
import { LowStock } from '../ui/LowStock.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { NextHandsList } from './NextHandsList.tsx';
import { Title } from '../ui/Title.tsx';

const HOUR = 3_600_000;
const ROW = 80;
const LABELS = 168;
/** Height of the hours above the bays. */
const AXIS = 24;
/** Enough to see this morning's start and tonight's closing. */
const HOURS_BACK = 3;

function windowAround(now: number, width: number): TimeScale {
  const from = Math.floor(now / HOUR) * HOUR - HOURS_BACK * HOUR;
  return { from, to: from + (width < 560 ? 9 : 11) * HOUR, width };
}

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

/** A row asks for its whole forecast: it is drawn anew with an entry or a few seconds on, not with every tick. */
const BayRow = memo(function BayRow({
  bay,
  charger,
  job,
  now,
  scale,
  hours,
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
}) {
  const navigate = useNavigate();
  if (apart && !job)
    return (
      <li className="flex items-center border-b border-line" style={{ height: ROW }}>
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
      <li className="flex items-center border-b border-line" style={{ height: ROW }}>
        <span className="w-10 pl-1 text-2xl font-bold text-cork-dark">{bay.number}</span>
        <Link
          to={`/intake?bay=${bay.number}`}
          className="flex min-h-12 items-center text-soft hover:text-char"
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
  return (
    <li className="relative border-b border-line" style={{ height: ROW }}>
      <Link
        to={`/jobs/${state.job}`}
        className="absolute inset-y-0 left-0 flex items-start gap-1 pt-2.5 hover:bg-panel"
        style={{ width: LABELS }}
      >
        {bay.number === SHELF ? (
          <span className="w-9 pl-1 text-[13px] leading-none font-bold text-cork-dark">shelf</span>
        ) : (
          <span className="w-9 pl-1 text-2xl leading-none font-bold text-cork-dark">{bay.number}</span>
        )}
        <span className="min-w-0 flex-1">
          <span className="block leading-tight font-bold">{opened.battery.tag}</span>
          <span className="block truncate text-[13px] leading-tight text-soft">{shortName(opened.type)}</span>
          <span className={`mt-0.5 block truncate text-[13px] font-semibold ${TONES[mood.tone]}`}>
            {mood.word}
          </span>
        </span>
      </Link>
      <svg
        width={scale.width}
        height={ROW}
        style={{ marginLeft: LABELS }}
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
          y={44}
          promisedAt={opened.promisedAt}
          isAlarm={mood.tone === 'stop'}
        />
        {reading && (
          <text x={xOf(scale, now) + 14} y={73} className="reading fill-char text-[12px]">
            {reading.voltageV.toFixed(2)} V {reading.currentA.toFixed(2)} A {reading.tempC.toFixed(0)} °C
          </text>
        )}
        {isPromiseAhead && (
          <text x={scale.width - 6} y={73} textAnchor="end" className="fill-verdigris text-[11px]">
            promised {whenText(opened.promisedAt, now, hours.timeZone)}
          </text>
        )}
      </svg>
    </li>
  );
});

function Axis({
  scale,
  hours,
  now,
  rows,
}: {
  scale: TimeScale;
  hours: ShopHours;
  now: number;
  rows: number;
}) {
  const height = AXIS + rows * ROW;
  const nowX = xOf(scale, now);
  return (
    <svg
      width={scale.width}
      height={height}
      className="pointer-events-none absolute top-0"
      style={{ left: LABELS }}
      aria-hidden
    >
      {closedSpans(hours, scale.from, scale.to).map((span) => (
        <g key={span.from}>
          <rect
            x={xOf(scale, span.from)}
            y={AXIS}
            width={xOf(scale, span.to) - xOf(scale, span.from)}
            height={height}
            className="fill-cork/20"
          />
          {xOf(scale, span.to) - xOf(scale, span.from) > 60 && (
            <text x={xOf(scale, span.from) + 6} y={AXIS + 14} className="fill-soft text-[11px]">
              shop closed
            </text>
          )}
        </g>
      ))}
      {axisHours(scale, hours.timeZone).map((at) => (
        <g key={at}>
          <path d={`M${xOf(scale, at)} ${AXIS}V${height}`} className="stroke-line" strokeWidth={1} />
          {xOf(scale, at) > 16 && xOf(scale, at) < scale.width - 16 && (
            <text x={xOf(scale, at)} y={15} textAnchor="middle" className="reading fill-soft text-[12px]">
              {hourText(at, hours.timeZone)}
            </text>
          )}
        </g>
      ))}
      <path
        d={`M${nowX} ${AXIS}V${height}`}
        className="stroke-ember"
        strokeWidth={1.5}
        strokeDasharray="2 4"
      />
    </svg>
  );
}

/** A row of the shelf, which has no charger. */
const ON_SHELF: Bay = { number: SHELF, charger: '' };

/** Shop time after which the rows are drawn anew, ms. */
const ROW_EVERY_MS = 10_000;

/** Digits open a bay, Enter does what the band says. */
function useBenchKeys(jobs: readonly Outline[], topJob: string | undefined): void {
  const navigate = useNavigate();
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      // Whatever else has the keyboard answers for itself.
      const isFree = event.target === document.body || event.target instanceof HTMLHeadingElement;
      if (!isFree || event.repeat) return;
      const job = jobs.find((one) => one.state.bay !== SHELF && String(one.state.bay) === event.key)?.state
        .job;
      const wanted = event.key === 'Enter' ? topJob : job;
      if (wanted !== undefined) void navigate(`/jobs/${wanted}`);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [jobs, topJob, navigate]);
}

export function BenchPage() {
  const { data: shop } = useShop();
  const { jobs, isPending, error, refetch } = useOpenJobs();
  const apart = (useQuarantined().data ?? []).filter(({ outcome }) => outcome === null);
  const now = useNow();
  const [ref, width] = useWidth<HTMLDivElement>(900);
  const hands = nextHands(
    jobs.map((job) => job.state),
    now,
  );
  useBenchKeys(jobs, hands[0]?.job);
  const moment = Math.floor(now / ROW_EVERY_MS) * ROW_EVERY_MS;
  const scale = useMemo(() => windowAround(moment, Math.max(240, width - LABELS - 8)), [moment, width]);
  if (!shop || isPending || error || now === 0) return <Waiting error={error} retry={() => void refetch()} />;
  // A shop that was never set up opens on its first day; once begun it is a press away.
  const isUntouched = shop.firstDay !== undefined && Object.keys(shop.firstDay).length === 0;
  if (isUntouched && jobs.length === 0) return <Navigate to="/first-day" replace />;
  const inBays = jobs.filter(({ state }) => state.bay !== SHELF);
  const onShelf = jobs.filter(({ state }) => state.bay === SHELF);
  const apartElsewhere = apart.filter(({ bay }) => !shop.bays.some(({ number }) => number === bay));
  const busy = new Map(inBays.map((job) => [job.state.bay, job]));
  return (
    <div className="flex min-h-full flex-col lg:flex-row">
      <section className="min-w-0 flex-1 px-4 pt-3 pb-4" aria-labelledby="bench-title">
        <div className="flex flex-wrap items-center gap-x-3">
          <Title said="Bench" id="bench-title" className="mr-auto text-sm font-semibold text-soft">
            Bench · {shop.bays.length} bays, {busy.size} in use
            {onShelf.length > 0 && `, ${onShelf.length} on the shelf`}
          </Title>
          {shop.firstDay && stepAtHand(shop.firstDay) && (
            <Link
              to="/first-day"
              className="inline-flex min-h-12 items-center gap-2 rounded-lg border-2 border-ember bg-card px-4 font-semibold"
            >
              First day: set the shop up
            </Link>
          )}
          <LowStock />
          {jobs.length > 1 && (
            <Link
              to="/batch"
              className="inline-flex min-h-12 items-center gap-2 px-2 text-verdigris underline underline-offset-4"
            >
              Take them through together
            </Link>
          )}
        </div>
        <div ref={ref} className="relative mt-1">
          <Axis
            scale={scale}
            hours={shop.hours}
            now={now}
            rows={shop.bays.length + apartElsewhere.length + onShelf.length}
          />
          <ul className="relative" style={{ paddingTop: AXIS }}>
            {shop.bays.map((bay) => (
              <BayRow
                charger={chargerName(shop, bay.charger)}
                key={bay.number}
                bay={bay}
                job={busy.get(bay.number)}
                apart={apart.find((one) => one.bay === bay.number)}
                now={Math.max(moment, busy.get(bay.number)?.at ?? 0)}
                scale={scale}
                hours={shop.hours}
              />
            ))}
            {apartElsewhere.map((one) => (
              <BayRow
                charger=""
                key={one.id}
                bay={ON_SHELF}
                job={undefined}
                apart={one}
                now={moment}
                scale={scale}
                hours={shop.hours}
              />
            ))}
            {onShelf.map((job) => (
              <BayRow
                charger=""
                key={job.state.job}
                bay={ON_SHELF}
                job={job}
                now={Math.max(moment, job.at)}
                scale={scale}
                hours={shop.hours}
              />
            ))}
          </ul>
        </div>
      </section>
      <NextHandsList turns={inTurn(hands, now)} now={now} timeZone={shop.hours.timeZone} />
    </div>
  );
}
