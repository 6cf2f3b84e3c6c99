/** One battery: what it is, what was done with it, its papers. */
import { STEP } from '@cork-ember/core/runsheet/definition/stepIds.ts';
import { Download } from 'lucide-react';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { standsText } from '@cork-ember/core/runsheet/entries/place.ts';
import { chargeNow } from '@cork-ember/core/runsheet/outcome/chargeNow.ts';
import { kindName, nominalV, type ListedType } from '@cork-ember/core/battery/types.ts';
import type { JobSummary } from '@cork-ember/core/contract/answers.ts';
import { gainsOf, gainWords } from '@cork-ember/core/runsheet/outcome/gain.ts';
import { forecast } from '@cork-ember/core/runsheet/plan/forecast.ts';
import { gradedFrom } from '@cork-ember/core/runsheet/verdict/proof.ts';
import { contextOf } from '@cork-ember/core/runsheet/state/context.ts';
import { latest, type JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { dateText, dateTimeText } from '@cork-ember/core/clock/clockText.ts';
import { useNow } from '../api/clock.ts';
import { useJob } from '../api/jobs.ts';
import { useBattery, useClock, useShop, useTypes } from '../api/queries.ts';
import { Cord } from '../cord/Cord.tsx';
import { useWidth } from '../cord/useWidth.ts';
import { Life } from './Life.tsx';
import { OffBench } from './OffBench.tsx';
import { Button } from '../ui/Button.tsx';
import { WhatItTook } from '../ui/WhatItTook.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { verbatim } from '@cork-ember/core/units/localise.ts';
import { AGE_UNKNOWN } from '@cork-ember/core/battery/dateCode.ts';
import { OUTCOME_WORDS } from '../ui/outcome.ts';
import { Title } from '../ui/Title.tsx';
import { card } from '../ui/card.ts';

function Facts({
  type,
  dateCode,
  serial,
  owner,
}: {
  type: ListedType | undefined;
  dateCode: string;
  serial: string;
  owner: string;
}) {
  const rows: [string, string][] = [
    ['For', verbatim(owner)],
    ['Made', dateCode === AGE_UNKNOWN ? 'not known' : verbatim(dateCode)],
    ['Serial', serial === '' ? 'none' : verbatim(serial)],
  ];
  if (type) {
    rows.unshift([
      'Type',
      `${verbatim(`${type.maker} ${type.id}`)}, ${kindName(type)}, ${nominalV(type)} V ${type.capacityAh} Ah (${type.hourRate} h)`,
    ]);
    if (type.cranking) rows.push(['Cranking', `${type.cranking.amps} A (${type.cranking.standard})`]);
    if (type.pack)
      rows.push([
        'Acid pack',
        `${verbatim(type.pack.code)}, ${type.pack.volumeMl} mL at ${type.pack.densityKgPerL.toFixed(3)} kg/L`,
      ]);
  }
  return (
    <dl className="grid max-w-3xl grid-cols-[7rem_1fr] gap-y-1">
      {rows.map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="text-soft">{name}</dt>
          <dd>{value}</dd>
        </div>
      ))}
    </dl>
  );
}

function Results({ state }: { state: JobState }) {
  if (state.outcome === 'recovered') {
    const { grade, because, use } = gradedFrom(contextOf(state, latest(state, STEP.proveOcv)?.round ?? 1));
    return (
      <p>
        <strong>Grade {grade}.</strong> {because} For {use}.
      </p>
    );
  }
  const charge = chargeNow(state);
  if (!charge || (state.outcome !== 'certified' && state.outcome !== 'charged'))
    return state.outcomeNote ? <p>{state.outcomeNote}</p> : null;
  return (
    <p>
      Rested at <strong className="reading">{charge.ocvV.toFixed(2)} V</strong>, charge {charge.words},{' '}
      {charge.because}.
    </p>
  );
}

/** What a recovery brought back, each figure by itself. */
function Gains({ state }: { state: JobState }) {
  const gains = gainsOf(state);
  if (gains.length === 0) return null;
  return (
    <dl className="mt-2 grid max-w-3xl grid-cols-[9rem_1fr] gap-y-1">
      {gains.map((gain) => (
        <div key={gain.what} className="contents">
          <dt className="text-soft">{gain.what}</dt>
          <dd className="reading">{gainWords(gain)}</dd>
        </div>
      ))}
    </dl>
  );
}

function JobCard({ summary, timeZone }: { summary: JobSummary; timeZone: string }) {
  const { job } = useJob(summary.id);
  const now = useNow();
  const [ref, width] = useWidth<HTMLDivElement>(700);
  const words = summary.outcome ? OUTCOME_WORDS[summary.outcome] : undefined;
  const drawn = job && forecast(job.state, now);
  return (
    <li className={card({ pad: 'wide' })}>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <h3 className={`text-lg font-bold ${words?.tone ?? 'text-ember-text'}`}>
          {words ? words.word : `at work, ${standsText(summary.bay)}`}
        </h3>
        <p className="text-soft">
          {dateTimeText(summary.openedAt, timeZone)}
          {summary.endedAt !== null && ` to ${dateTimeText(summary.endedAt, timeZone)}`}
        </p>
        <span className="flex-1" />
        {words && (
          <a
            href={`/api/jobs/${summary.id}/certificate.pdf`}
            download
            className="inline-flex min-h-12 items-center gap-2 rounded-lg bg-verdigris-deep px-4 font-medium text-white hover:brightness-110"
          >
            <Download aria-hidden className="size-5" /> {words.paper}
          </a>
        )}
        <Link
          to={`/jobs/${summary.id}`}
          className="inline-flex min-h-12 items-center rounded-lg border-2 border-cork px-4 font-medium hover:bg-paper"
        >
          Run sheet
        </Link>
      </div>
      {job && (
        <div className="mt-2">
          <Results state={job.state} />
          <Gains state={job.state} />
          <WhatItTook state={job.state} now={summary.endedAt ?? now} />
        </div>
      )}
      <div ref={ref} className="mt-1">
        {job && drawn && (
          <svg
            width={width}
            height={64}
            role="img"
            aria-label={`Cord of the job of ${dateText(summary.openedAt, timeZone)}`}
          >
            <Cord
              forecast={drawn}
              scale={{ from: summary.openedAt - 900_000, to: drawn.readyAt + 900_000, width }}
              now={summary.endedAt ?? now}
              timeZone={timeZone}
              y={38}
              isEnded={summary.outcome !== null}
            />
          </svg>
        )}
      </div>
    </li>
  );
}

/** Each is read and drawn from its own log: so many at first, the newest first. */
const JOBS_AT_ONCE = 5;

export function BatteryPage() {
  const [shown, setShown] = useState(JOBS_AT_ONCE);
  const { tag = '' } = useParams();
  const { data: battery, error, refetch } = useBattery(tag.toUpperCase());
  const [shops, listed, clock] = [useShop(), useTypes(), useClock()];
  const { data: shop } = shops;
  const { data: types } = listed;
  const now = useNow();
  if (!battery || !shop || !types || now === 0)
    return <Waiting on={[{ data: battery, error, refetch }, shops, listed, clock]} />;
  const newest = battery.jobs.toReversed();
  const isFree = battery.jobs.every((job) => job.outcome !== null);
  return (
    <div className="space-y-5 p-5">
      <div className="flex flex-wrap items-center gap-4">
        <Title>{battery.tag}</Title>
        {(['pdf', 'svg'] as const).map((format) => (
          <a
            key={format}
            href={`/api/batteries/${battery.tag}/label.${format}`}
            download
            className="inline-flex min-h-12 items-center rounded-lg border-2 border-cork px-4 font-medium hover:bg-panel"
          >
            Tag ({format.toUpperCase()})
          </a>
        ))}
        {isFree && (
          <Link
            to={`/intake?tag=${battery.tag}`}
            className="inline-flex min-h-12 items-center rounded-lg border-2 border-cork px-4 font-medium hover:bg-panel"
          >
            Take it in again
          </Link>
        )}
      </div>
      <Facts
        type={types.find((type) => type.id === battery.typeId)}
        dateCode={battery.dateCode}
        serial={battery.serial}
        owner={battery.owner}
      />
      <Life
        findings={battery.findings}
        type={types.find((type) => type.id === battery.typeId)}
        timeZone={shop.hours.timeZone}
      />
      <OffBench events={battery.shelf} timeZone={shop.hours.timeZone} />
      <section aria-labelledby="jobs-title">
        <h2 id="jobs-title" className="mb-2 text-sm font-semibold text-soft">
          Jobs
        </h2>
        {newest.length === 0 && <p className="text-soft">It has not been on the bench yet.</p>}
        <ol className="space-y-3">
          {newest.slice(0, shown).map((summary) => (
            <JobCard key={summary.id} summary={summary} timeZone={shop.hours.timeZone} />
          ))}
        </ol>
        {newest.length > shown && (
          <Button className="mt-3" onClick={() => setShown(shown + JOBS_AT_ONCE)}>
            Show earlier jobs ({newest.length - shown} more)
          </Button>
        )}
      </section>
    </div>
  );
}
