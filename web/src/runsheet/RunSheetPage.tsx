/** Run sheet: this battery, the step at hand large, everything else within reach. */
import { useParams, Link } from 'react-router';
import { shortName } from '@cork-ember/core/battery/types.ts';
import { atHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { outlineOf } from '@cork-ember/core/runsheet/log/outline.ts';
import { forecast, type Forecast } from '@cork-ember/core/runsheet/plan/forecast.ts';
import { placeText, SHELF } from '@cork-ember/core/runsheet/entries/place.ts';
import { settle } from '@cork-ember/core/runsheet/state/settle.ts';
import { procedureOf } from '@cork-ember/core/runsheet/state/sheet.ts';
import { whenText } from '@cork-ember/core/clock/clockText.ts';
import { useNow } from '../api/clock.ts';
import { Refusal } from '../api/client.ts';
import { useJob } from '../api/queries.ts';
import { Cord } from '../cord/Cord.tsx';
import { Hours } from '../cord/Hours.tsx';
import type { TimeScale } from '../cord/scale.ts';
import { useWidth } from '../cord/useWidth.ts';
import { Notice } from '../ui/Notice.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { Apart } from './Apart.tsx';
import { Arrange } from './Arrange.tsx';
import { Place } from './Place.tsx';
import { LogPanel } from './LogPanel.tsx';
import { Ended } from './Ended.tsx';
import { StepCard } from '../steps/StepCard.tsx';
import { StepList } from './StepList.tsx';
import { Title } from '../ui/Title.tsx';

const HOUR = 3_600_000;

function HeaderCord({ job, drawn, now }: { job: Job; drawn: Forecast; now: number }) {
  const [ref, width] = useWidth<HTMLDivElement>(900);
  const { opened, openedAt, outcome } = job.state;
  const from = openedAt - HOUR / 4;
  const scale: TimeScale = { from, to: Math.max(drawn.readyAt, outcome ? 0 : now) + HOUR / 2, width };
  return (
    <div ref={ref}>
      <svg
        width={width}
        height={88}
        className="block"
        role="img"
        aria-label={`Cord of ${opened.battery.tag}, ready ${whenText(drawn.readyAt, now, opened.hours.timeZone)}`}
      >
        <Hours scale={scale} y={83} timeZone={opened.hours.timeZone} />
        <Cord
          forecast={drawn}
          scale={scale}
          now={now}
          timeZone={opened.hours.timeZone}
          y={42}
          promisedAt={opened.promisedAt}
          isEnded={outcome !== undefined}
        />
      </svg>
    </div>
  );
}

function Header({ job, drawn, now }: { job: Job; drawn: Forecast; now: number }) {
  const { opened, outcome, endedAt } = job.state;
  const { timeZone } = opened.hours;
  const isLate = !outcome && drawn.readyAt > opened.promisedAt;
  const ready = outcome
    ? `${outcome} ${whenText(endedAt ?? now, now, timeZone)}`
    : `${drawn.isOpenEnded ? 'next choice' : 'ready'} ${whenText(drawn.readyAt, now, timeZone)}`;
  return (
    <header className="border-b border-line bg-panel px-5 pt-3">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <Title said={`${opened.battery.tag}, ${shortName(opened.type)}`} className="text-xl font-bold">
          <Link
            to={`/batteries/${opened.battery.tag}`}
            className="underline decoration-cork decoration-2 underline-offset-4"
          >
            {opened.battery.tag}
          </Link>
        </Title>
        <p className="min-w-0 truncate">
          {shortName(opened.type)} · {opened.battery.owner}
          {opened.type.pack && !drawn.isOpenEnded ? ` · pack ${opened.type.pack.code}` : ''}
        </p>
        {outcome ? (
          <span className="text-soft">{placeText(job.state.bay)}</span>
        ) : (
          <>
            <Place job={job} />
            <Arrange job={job} now={now} />
          </>
        )}
        {procedureOf(job.state).routes && (
          <Link
            to={`/jobs/${job.state.job}/evidence`}
            className="inline-flex min-h-12 items-center px-2 text-verdigris underline underline-offset-4"
          >
            What is the matter?
          </Link>
        )}
        <p className={`ml-auto font-semibold ${isLate ? 'text-clay' : 'text-verdigris'}`}>
          {ready} · promised {whenText(opened.promisedAt, now, timeZone)}
          {isLate ? ' · late' : ''}
        </p>
      </div>
      <HeaderCord job={job} drawn={drawn} now={now} />
    </header>
  );
}

export function RunSheetPage() {
  const { id = '' } = useParams();
  const { job, data, parcels, error, refetch } = useJob(id);
  const now = useNow();
  if (error instanceof Refusal && error.status === 422) return <Apart id={id} why={error.message} />;
  if (!job || now === 0) return <Waiting error={error} retry={() => void refetch()} />;
  const state = settle(job.state, now);
  const drawn = forecast(state, now);
  const hand = atHand(state, now);
  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <Header job={job} drawn={drawn} now={now} />
      <div className="flex flex-1 flex-col lg:min-h-0 lg:flex-row">
        <StepList state={state} />
        <div className="min-w-0 flex-1 px-4 pt-4 lg:overflow-auto">
          {hand?.definition.kind === 'charge' && state.bay === SHELF && (
            <Notice tone="stop">
              It stands on the shelf, where there is no charger: move it to a bay first.
            </Notice>
          )}
          {hand ? (
            <StepCard key={`${id}-${hand.step.key}`} job={outlineOf(job)} hand={hand} now={now} />
          ) : (
            <Ended
              job={job}
              seals={data?.seals ?? []}
              isRecorded={parcels.every(({ refused }) => refused !== undefined)}
            />
          )}
        </div>
        <LogPanel job={job} parcels={parcels} now={now} drawn={drawn} />
      </div>
    </div>
  );
}
