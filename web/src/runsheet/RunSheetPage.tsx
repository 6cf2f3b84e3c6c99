/** Run sheet: this battery, the step at hand large, everything else within reach. */
import type { ReactNode } from 'react';
import { Link, useParams } from 'react-router';
import { shortName } from '@cork-ember/core/battery/types.ts';
import { atHand, type AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import { isStepAt } from '@cork-ember/core/adapters/bayStep.ts';
import type { BayDoes } from '@cork-ember/core/devices/bay/messages.ts';
import { drainAt } from '@cork-ember/core/runsheet/plan/capacityClock.ts';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { outlineOf } from '@cork-ember/core/runsheet/log/outline.ts';
import { forecast, type Forecast } from '@cork-ember/core/runsheet/plan/forecast.ts';
import { placeText, SHELF } from '@cork-ember/core/runsheet/entries/place.ts';
import { settle } from '@cork-ember/core/runsheet/state/settle.ts';
import { procedureOf } from '@cork-ember/core/runsheet/state/sheet.ts';
import { whenText } from '@cork-ember/core/clock/clockText.ts';
import { useBenchNow } from '../alarms/alarms.ts';
import { Refusal } from '../api/client.ts';
import { useJob } from '../api/jobs.ts';
import { useClock } from '../api/queries.ts';
import { Cord } from '../cord/Cord.tsx';
import { Hours } from '../cord/Hours.tsx';
import type { TimeScale } from '../cord/scale.ts';
import { useWidth } from '../cord/useWidth.ts';
import { useReading } from '../judgement/useReading.ts';
import type { JobParcel } from '../store/parcel.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Announced } from '../ui/Announced.tsx';
import { useIsWide } from '../ui/useIsWide.ts';
import { Waiting } from '../ui/Waiting.tsx';
import { Arrange } from './Arrange.tsx';
import { BayPanel } from './BayPanel.tsx';
import { Place } from './Place.tsx';
import { StepCard } from '../steps/StepCard.tsx';
import { FoldedSteps, StepList } from './StepList.tsx';
import { Title } from '../ui/Title.tsx';
import { later } from '../ui/later.tsx';

/** Beside the step: what has been is not waited for. */
const LogPanel = later(async () => (await import('./LogPanel.tsx')).LogPanel);

const Ended = later(async () => (await import('./Ended.tsx')).Ended);

const Apart = later(async () => (await import('./Apart.tsx')).Apart);

const AddReading = later(async () => (await import('../judgement/AddReading.tsx')).AddReading);

const JudgementColumn = later(async () => (await import('../judgement/JudgementPanel.tsx')).JudgementColumn);
const JudgementDrawer = later(async () => (await import('../judgement/JudgementPanel.tsx')).JudgementDrawer);

const HOUR = 3_600_000;
/** A cord of minutes is drawn on so much, or it would be a stub between two hours. */
const LEAST_SPAN = 4 * HOUR;
/** Free before its beginning and after its end, of the whole. */
const MARGIN = 0.04;

/** From a little before it was taken in to a little after it is ready. */
function headerScale(from: number, to: number, width: number): TimeScale {
  const span = Math.max(to - from, LEAST_SPAN);
  return { from: from - span * MARGIN, to: from + span * (1 + MARGIN), width };
}

function HeaderCord({ job, drawn, now }: { job: Job; drawn: Forecast; now: number }) {
  const [ref, width] = useWidth<HTMLDivElement>(900);
  const { opened, openedAt, outcome } = job.state;
  const scale = headerScale(openedAt, Math.max(drawn.readyAt, outcome ? 0 : now), width);
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
          isNamed
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
        <p className={`ml-auto font-semibold ${isLate ? 'text-clay' : 'text-verdigris'}`}>
          {ready} · promised {whenText(opened.promisedAt, now, timeZone)}
          {isLate ? ' · late' : ''}
        </p>
      </div>
      <HeaderCord job={job} drawn={drawn} now={now} />
    </header>
  );
}

interface SheetProps {
  readonly job: Job;
  readonly now: number;
  readonly drawn: Forecast;
  readonly parcels: readonly JobParcel[];
  readonly children: ReactNode;
}

/** A battery that is commissioned: its steps on the left, its log on the right. */
function Commissioned({ job, now, drawn, parcels, children }: SheetProps) {
  return (
    <>
      <StepList state={job.state} />
      <div className="min-w-0 flex-1 px-4 pt-4 lg:overflow-auto">{children}</div>
      <div className="shrink-0 border-line bg-panel px-4 py-3 max-lg:border-t lg:w-76 lg:overflow-auto lg:border-l">
        <LogPanel job={job} parcels={parcels} now={now} drawn={drawn} />
      </div>
    </>
  );
}

/** A battery brought back: the judgement stands where it is decided, a reading is entered beside any step. */
function BroughtBack({ job, now, drawn, parcels, children }: SheetProps) {
  const [reading, read] = useReading();
  const isWide = useIsWide();
  const { state } = job;
  return (
    <>
      <div className="min-w-0 flex-1 px-4 pt-4 lg:overflow-auto">
        {!isWide && (
          <div className="mx-auto mb-3 max-w-3xl">
            <JudgementDrawer state={state} onRead={read} />
          </div>
        )}
        {reading === undefined ? (
          children
        ) : (
          <div className="mx-auto mb-4 max-w-3xl">
            <Button tone="quiet" onClick={() => read(undefined)}>
              Back to the step
            </Button>
            <AddReading job={job} kind={reading} onKind={read} onTaken={() => read(undefined)} />
          </div>
        )}
      </div>
      <div className="shrink-0 border-line bg-panel px-4 py-3 max-lg:border-t lg:w-84 lg:overflow-auto lg:border-l">
        {isWide && <JudgementColumn state={state} onRead={read} />}
        <FoldedSteps state={state} />
        <div className="pt-3">
          <LogPanel job={job} parcels={parcels} now={now} drawn={drawn} />
        </div>
      </div>
    </>
  );
}

/** What a bay with devices of its own could do at this step. */
function doesOf({ definition, state, step, phase }: AtHand): BayDoes['kind'] | undefined {
  // A charger that is on by hand is ended or paused first.
  if (definition.kind === 'charge')
    return phase === 'ready' || phase === 'stopped' || phase === 'cooling' ? 'charge' : undefined;
  if (isStepAt(state, step.stepId)) return 'step';
  return drainAt(step.stepId) ? 'drain' : undefined;
}

export function RunSheetPage() {
  const { id = '' } = useParams();
  const { job, data, parcels, error, refetch } = useJob(id);
  const clock = useClock();
  const now = useBenchNow();
  if (error instanceof Refusal && error.status === 422) return <Apart id={id} why={error.message} />;
  if (!job || now === 0) return <Waiting on={[{ data, error, refetch }, clock]} />;
  const state = settle(job.state, now);
  const drawn = forecast(state, now);
  const hand = atHand(state, now);
  const isJudged = procedureOf(state).routes !== undefined && !state.outcome;
  const Sheet = isJudged ? BroughtBack : Commissioned;
  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <Header job={job} drawn={drawn} now={now} />
      <Announced text={`${state.opened.battery.tag}: ${hand?.title ?? state.outcome ?? ''}`} />
      <div className="flex flex-1 flex-col lg:min-h-0 lg:flex-row">
        <Sheet job={{ ...job, state }} now={now} drawn={drawn} parcels={parcels}>
          {state.bay !== SHELF && hand && <BayPanel state={state} does={doesOf(hand)} />}
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
        </Sheet>
      </div>
    </div>
  );
}
