/** Batch: all open batteries taken through together; hands go to whichever needs them, a key or a scan switches. */
import { useCallback, useEffect, useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { sayTrouble } from '../ui/say.ts';
import { placeText } from '@cork-ember/core/runsheet/entries/place.ts';
import { shortName } from '@cork-ember/core/battery/types.ts';
import { atHand, type AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import type { Hand } from '@cork-ember/core/runsheet/plan/hand.ts';
import { nextHands } from '@cork-ember/core/runsheet/plan/hands.ts';
import { lastReadingOf } from '@cork-ember/core/runsheet/state/looks.ts';
import { whenText } from '@cork-ember/core/clock/clockText.ts';
import { sentenceOf } from '../api/client.ts';
import { useBenchNow } from '../alarms/alarms.ts';
import { useOpenJobs } from '../api/jobs.ts';
import { useClock } from '../api/queries.ts';
import { recordOn } from '../api/record.ts';
import { usePerson } from '../api/person.ts';
import { StepCard } from '../steps/StepCard.tsx';
import { Button } from '../ui/Button.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { ColumnEntry } from './ColumnEntry.tsx';
import { commonGates, looksDue, sameReadings, type AtBench } from './together.ts';
import { Announced } from '../ui/Announced.tsx';
import { Title } from '../ui/Title.tsx';
import { card } from '../ui/card.ts';

function order(hands: readonly Hand[], jobs: readonly AtBench[]): AtBench[] {
  const place = new Map(hands.map(({ job }, index) => [job, index]).reverse() as [string, number][]);
  return [...jobs].sort((a, b) => (place.get(a.job.state.job) ?? 1e6) - (place.get(b.job.state.job) ?? 1e6));
}

const isDueAt = ({ hand }: AtBench, now: number): boolean =>
  hand !== undefined && hand.dueAt <= now && hand.definition.kind !== 'dwell';

/** A step of one battery. */
const cardOf = ({ job, hand }: AtBench): string => `${job.state.job} ${hand?.step.key ?? ''}`;

/** The same, and since which look at its charge. */
const askedBy = (one: AtBench): string => {
  const { job, hand } = one;
  return `${cardOf(one)} ${lastReadingOf(job.state, hand?.step.key)?.at ?? ''}`;
};

function Row({
  one,
  index,
  isActive,
  now,
  onOpen,
}: {
  one: AtBench;
  index: number;
  isActive: boolean;
  now: number;
  onOpen: () => void;
}) {
  const { job, hand } = one;
  const { opened } = job.state;
  const isDue = isDueAt(one, now);
  return (
    <li>
      <button
        type="button"
        aria-current={isActive}
        onClick={onOpen}
        className={`flex min-h-16 w-full items-center gap-3 border-l-6 px-3 py-2 text-left hover:bg-paper ${isActive ? 'border-ember bg-paper' : 'border-transparent'}`}
      >
        <span className="reading flex size-8 shrink-0 items-center justify-center rounded-full border-2 border-cork text-sm">
          {index < 9 ? index + 1 : '·'}
        </span>
        <span className="min-w-0 flex-1">
          <span className="block truncate font-semibold">
            {opened.battery.tag} · {shortName(opened.type)}
          </span>
          <span className={`block truncate text-sm ${isDue ? 'font-semibold text-ember-text' : 'text-soft'}`}>
            {hand?.title ?? 'done'}
          </span>
        </span>
        <span className={`reading shrink-0 text-sm ${isDue ? 'font-semibold text-ember-text' : 'text-soft'}`}>
          {hand ? (isDue ? 'now' : whenText(hand.dueAt, now, opened.hours.timeZone)) : ''}
        </span>
      </button>
    </li>
  );
}

/** Affirms one and the same gate on several batteries, one entry each. */
async function affirmAll(by: string, jobs: readonly AtBench[]): Promise<void> {
  for (const { job, hand } of jobs)
    if (hand) await recordOn(job, by, { kind: 'affirmed', payload: { step: hand.step.key } });
}

function Together({ benches }: { benches: readonly AtBench[] }) {
  const [by] = usePerson();
  const [isBusy, setBusy] = useState(false);
  const run = async (gate: readonly AtBench[]): Promise<void> => {
    setBusy(true);
    try {
      await affirmAll(by, gate);
    } catch (error) {
      sayTrouble(sentenceOf(error));
    } finally {
      setBusy(false);
    }
  };
  return commonGates(benches).map(({ title, claims, affirmLabel, jobs }) => (
    <section key={title} className={card({ edge: 'ready', className: 'mb-4' })}>
      <h2 className="text-lg font-bold">
        {title}, once for {jobs.length}
      </h2>
      <p className="mt-1 text-soft">{claims.join(' · ')}</p>
      <p className="reading mt-1 text-sm">{jobs.map(({ job }) => job.state.opened.battery.tag).join(', ')}</p>
      <Button
        tone="go"
        className="mt-3 min-h-14 w-full text-lg"
        disabled={isBusy}
        onClick={() => void run(jobs)}
      >
        {affirmLabel}, for all {jobs.length}
      </Button>
    </section>
  ));
}

export function BatchPage() {
  const standing = useOpenJobs();
  const clock = useClock();
  const { jobs: open } = standing;
  const now = useBenchNow();
  const [params, setParams] = useSearchParams();
  const only = params.get('jobs');
  const jobs = useMemo(
    () => (only === null ? open : open.filter(({ state }) => only.includes(state.job))),
    [open, only],
  );
  const benches = useMemo((): AtBench[] => {
    const states = jobs.map(({ state }) => state);
    const at = Math.max(now, ...states.map(({ openedAt }) => openedAt));
    const list = jobs.map((job): AtBench => ({ job, hand: atHand(job.state, at) }));
    return order(nextHands(states, at), list);
  }, [jobs, now]);
  const chosen = params.get('job');
  const choose = useCallback(
    (job: string): void => setParams(only === null ? { job } : { job, jobs: only }, { replace: true }),
    [only, setParams],
  );
  // A card that wants hands stays under them until it is answered, whatever falls due elsewhere meanwhile.
  const [held, setHeld] = useState('');
  const active =
    benches.find(({ job }) => job.state.job === chosen) ??
    benches.find((one) => cardOf(one) === held && isDueAt(one, now)) ??
    benches[0];
  const card = active ? cardOf(active) : '';
  if (card !== held) setHeld(card);
  // Answered, hands are free for whatever is most urgent again.
  const asked = active ? askedBy(active) : '';
  const [stood, setStood] = useState({ chosen, asked });
  const isNewChoice = stood.chosen !== chosen || (stood.asked === '' && asked !== '');
  if (isNewChoice) setStood({ chosen, asked });
  const isAnswered = chosen !== null && stood.chosen === chosen && stood.asked !== asked;
  useEffect(() => {
    if (isAnswered) setParams(only === null ? {} : { jobs: only }, { replace: true });
  }, [isAnswered, only, setParams]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (!event.altKey || !/^Digit[1-9]$/.test(event.code)) return;
      const bench = benches[Number(event.code.slice(5)) - 1];
      if (!bench) return;
      event.preventDefault();
      choose(bench.job.state.job);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [benches, choose]);
  if (!standing.data || now === 0) return <Waiting on={[standing, clock]} />;
  if (!active)
    return (
      <div className="p-5">
        <Title>Batch</Title>
        <p className="mt-2 text-soft">
          Nothing is on the bench.{' '}
          <Link to="/delivery" className="text-verdigris underline underline-offset-4">
            Take a delivery in
          </Link>
        </p>
      </div>
    );
  const hand: AtHand | undefined = atHand(active.job.state, now);
  const columns = [...looksDue(benches, now), ...sameReadings(benches)];
  return (
    <div className="flex min-h-full flex-col lg:h-full lg:flex-row">
      <Announced text={`${active.job.state.opened.battery.tag}: ${active.hand?.title ?? ''}`} />
      <nav
        aria-label="Batteries of the batch"
        className="shrink-0 border-b border-line bg-panel lg:w-88 lg:overflow-auto lg:border-r lg:border-b-0"
      >
        <Title className="px-4 pt-4 text-2xl font-bold">Batch</Title>
        <p className="px-4 pb-2 text-sm text-soft">
          The most urgent first. Alt and a digit switches, so does a scanned tag.{' '}
          <a
            href={`/api/labels.pdf?tags=${jobs.map(({ state }) => state.opened.battery.tag).join(',')}`}
            download
            className="text-verdigris underline underline-offset-4"
          >
            Print all tags
          </a>
        </p>
        <ol className="max-lg:max-h-72 max-lg:overflow-auto max-sm:max-h-36">
          {benches.map((one, index) => (
            <Row
              key={one.job.state.job}
              one={one}
              index={index}
              isActive={one === active}
              now={now}
              onOpen={() => choose(one.job.state.job)}
            />
          ))}
        </ol>
      </nav>
      <div className="min-w-0 flex-1 px-4 pt-4 lg:overflow-auto">
        <div className="mx-auto max-w-3xl">
          <Together benches={benches} />
          {columns.map((column) => (
            <ColumnEntry key={column.key} column={column} />
          ))}
          <p className="mb-2 flex flex-wrap items-baseline gap-x-3">
            <span className="text-xl font-bold whitespace-nowrap">{active.job.state.opened.battery.tag}</span>
            <span className="min-w-0 truncate text-soft">
              {shortName(active.job.state.opened.type)} · {placeText(active.job.state.bay)} ·{' '}
              {active.job.state.opened.battery.owner}
            </span>
            <Link
              to={`/jobs/${active.job.state.job}`}
              className="ml-auto inline-flex min-h-12 items-center text-verdigris underline underline-offset-4"
            >
              Whole run sheet
            </Link>
          </p>
        </div>
        {hand && (
          <StepCard key={`${active.job.state.job}-${hand.step.key}`} job={active.job} hand={hand} now={now} />
        )}
      </div>
    </div>
  );
}
