/** A bay on the bench: its battery, how it stands, and its cord. */
import { memo } from 'react';
import { Link, useNavigate } from 'react-router';
import { whenText } from '@cork-ember/core/clock/clockText.ts';
import type { ShopHours } from '@cork-ember/core/clock/shopHours.ts';
import type { Bay, Quarantined } from '@cork-ember/core/contract/answers.ts';
import { SHELF } from '@cork-ember/core/runsheet/entries/place.ts';
import type { BayPicture, Mood } from '@cork-ember/core/runsheet/plan/benchPicture.ts';
import { Cord } from '../cord/Cord.tsx';
import { isInside, xOf, type TimeScale } from '../cord/scale.ts';
import { usePace } from '../api/clock.ts';
import { sampleOf, useShown } from '../api/shown.ts';
import { figureOf } from '../ui/figureOf.ts';
import { TONES } from '../ui/tones.ts';
import type { BenchLayout } from './layout.ts';

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

/** What a bay's own devices show is of now so long, ms of real time. */
const FRESH_MS = 120_000;

interface ReadingProps {
  readonly job: string;
  /** What its charge showed when it was last looked at; none while no current flows. */
  readonly looked: string | undefined;
  readonly now: number;
}

/** What its own devices show, or else the last look; by itself, so that a new figure each second draws no cord anew. */
function ReadingNow({ job, looked, now }: ReadingProps) {
  const shown = useShown(job);
  const sample = shown && sampleOf(shown);
  const { pace } = usePace();
  if (!sample || now - sample.at > FRESH_MS * pace) return looked;
  const { volts, amps, tempC } = sample;
  return [...figureOf(volts, 2, 'V'), ...figureOf(amps, 2, 'A'), ...figureOf(tempC, 0, '°C')].join(' ');
}

/** A row is drawn anew with an entry or a few seconds on, not with every tick. */
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
  job: BayPicture | undefined;
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
  const { tag, mood, title, shown, forecast, promisedAt } = job;
  const isPromiseAhead = !isInside(scale, promisedAt);
  const looked =
    shown && `${shown.voltageV.toFixed(2)} V ${shown.currentA.toFixed(2)} A ${shown.tempC.toFixed(0)} °C`;
  const reading = <ReadingNow job={job.job} looked={looked} now={now} />;
  const promised = `promised ${whenText(promisedAt, now, hours.timeZone)}`;
  return (
    <li className="relative border-b border-line" style={{ height }}>
      <Link
        to={`/jobs/${job.job}`}
        className={`absolute inset-y-0 left-0 flex hover:bg-panel ${isDense ? 'items-center gap-2 text-[15px]' : 'items-start gap-1 pt-2'}`}
        style={{ width: labels }}
      >
        {isDense ? (
          <LineLabel bay={bay.number} tag={tag} mood={mood} isShort={labels < LEAST_WITH_MOOD} />
        ) : (
          <>
            <BayNumber bay={bay.number} />
            <span className="min-w-0 flex-1">
              <span className="block leading-tight font-bold">{tag}</span>
              <span className="block truncate text-[13px] leading-tight text-soft">{job.type}</span>
              <span className={`mt-0.5 block truncate text-[13px] font-semibold ${TONES[mood.tone]}`}>
                {mood.word}
              </span>
            </span>
            {hasDetails && (
              <span className="w-56 shrink-0 pr-3">
                <span className="block truncate leading-tight font-medium">{title}</span>
                <span className="reading block truncate text-[13px] leading-tight">{reading}&nbsp;</span>
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
        onClick={() => void navigate(`/jobs/${job.job}`)}
        role="img"
        aria-label={`${tag}: ${title}, ${forecast.isOpenEnded ? 'next choice' : 'ready'} ${whenText(forecast.readyAt, now, hours.timeZone)}`}
        className="block cursor-pointer"
      >
        <Cord
          forecast={forecast}
          scale={scale}
          now={now}
          timeZone={hours.timeZone}
          y={isDense ? height / 2 : height * 0.55}
          promisedAt={promisedAt}
          isAlarm={mood.tone === 'stop'}
          size={hasWords ? 'row' : 'line'}
        />
        {!hasDetails && hasWords && (
          <text x={xOf(scale, now) + 14} y={height - 7} className="reading fill-char text-[12px]">
            {reading}
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
