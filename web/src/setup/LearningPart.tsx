/** What the shop has learned from its own jobs, beside what the handbook says; what counts, and learning anew. */
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { CAUSES, COMPLAINT_WORDS, type Complaint } from '@cork-ember/core/candidate/causes.ts';
import { CONSTRUCTION, type Construction } from '@cork-ember/core/battery/construction.ts';
import type { LearnedAnswer, Shop } from '@cork-ember/core/contract/answers.ts';
import {
  TOPIC_IDS,
  TOPICS,
  USUAL_LEARNING,
  type LearningRule,
  type Topic,
} from '@cork-ember/core/learning/topics.ts';
import { percentText } from '@cork-ember/core/units/percent.ts';
import { ask, sentenceOf } from '../api/client.ts';
import { shopNow } from '../api/clock.ts';
import { useLearned } from '../api/queries.ts';
import { Button } from '../ui/Button.tsx';
import { card } from '../ui/card.ts';
import { Table, type Column } from '../ui/Table.tsx';
import { Tick } from '../ui/Tick.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { useShopChange } from './useShopChange.ts';
import { WhyBar } from './WhyBar.tsx';

type Said = LearnedAnswer['causes'][number];
type Cause = Said['causes'][number];

/** Of fewer jobs a table would say more than they do. */
const FEWEST = 3;
/** Rarer than this on both sides a cause is left out. */
const RARE = 0.02;

const jobsText = (count: number): string => (count === 1 ? '1 job' : `${count} jobs`);

function nameOf({ asked, answer }: Said): string {
  if (asked === 'construction') return CONSTRUCTION[answer as Construction].name;
  if (asked === 'complaint') return `“${COMPLAINT_WORDS[answer as Complaint]}”`;
  return answer.charAt(0).toUpperCase() + answer.slice(1);
}

const CAUSE_COLUMNS: readonly Column<Cause>[] = [
  { id: 'cause', head: 'Cause', cell: ({ cause }) => CAUSES[cause], text: ({ cause }) => CAUSES[cause] },
  {
    id: 'handbook',
    head: 'Handbook',
    cell: ({ handbook }) => percentText(handbook),
    text: ({ handbook }) => percentText(handbook),
    isFigure: true,
  },
  {
    id: 'found',
    head: 'Jobs here',
    cell: ({ found }) => percentText(found),
    text: ({ found }) => percentText(found),
    isFigure: true,
  },
  {
    id: 'now',
    head: 'Reckoned with',
    cell: ({ now }) => <b>{percentText(now)}</b>,
    text: ({ now }) => percentText(now),
    isFigure: true,
  },
];

function CausesLearned({ said }: { said: readonly Said[] }) {
  const [enough, few] = [said.filter(({ jobs }) => jobs >= FEWEST), said.filter(({ jobs }) => jobs < FEWEST)];
  return (
    <div className="grid gap-x-8 gap-y-5 xl:grid-cols-2">
      {enough.map((one) => (
        <section key={`${one.asked} ${one.answer}`} className="min-w-0">
          <h3 className="font-bold">
            {nameOf(one)} <span className="font-normal text-soft">· {jobsText(one.jobs)} here</span>
          </h3>
          <Table
            name={`What is the matter, ${nameOf(one)}`}
            rows={one.causes.filter(({ handbook, now }) => handbook > RARE || now > RARE)}
            columns={CAUSE_COLUMNS}
            keyOf={({ cause }) => cause}
            isDense
          />
        </section>
      ))}
      {few.length > 0 && (
        <p className="text-soft xl:col-span-2">
          Counted, and too few for a table:{' '}
          {few.map((one) => `${nameOf(one)} (${jobsText(one.jobs)})`).join(', ')}.
        </p>
      )}
    </div>
  );
}

type Way = LearnedAnswer['ways'][number];

const wayName = ({ title, construction }: Way): string => `${title}, ${CONSTRUCTION[construction].name}`;

const WAY_COLUMNS: readonly Column<Way>[] = [
  { id: 'way', head: 'Way', cell: wayName, text: wayName },
  {
    id: 'expected',
    head: 'Expected back',
    cell: ({ expected, tried }) => `${expected.toFixed(1)} of ${tried}`,
    text: ({ expected, tried }) => `${expected.toFixed(1)} of ${tried}`,
    isFigure: true,
  },
  {
    id: 'back',
    head: 'Came back',
    cell: ({ back, tried }) => `${back} of ${tried}`,
    text: ({ back, tried }) => `${back} of ${tried}`,
    isFigure: true,
  },
  {
    id: 'odds',
    head: 'Reckoned with',
    cell: ({ odds, low, high }) => (
      <>
        <b>{percentText(odds)}</b>{' '}
        <span className="whitespace-nowrap text-sm text-soft">
          {(low * 100).toFixed(0)} to {percentText(high)}
        </span>
      </>
    ),
    text: ({ odds }) => percentText(odds),
    isFigure: true,
  },
];

type Timed = LearnedAnswer['minutes'][number];
const timesText = (factor: number): string => `${factor.toFixed(2)} ×`;

const MINUTE_COLUMNS: readonly Column<Timed>[] = [
  { id: 'step', head: 'Step', cell: ({ title }) => title, text: ({ title }) => title },
  {
    id: 'count',
    head: 'Times here',
    cell: ({ count }) => count,
    sortBy: ({ count }) => count,
    text: ({ count }) => String(count),
    isFigure: true,
  },
  {
    id: 'found',
    head: 'Took, of the handbook’s',
    cell: ({ found }) => timesText(found),
    sortBy: ({ found }) => found,
    text: ({ found }) => timesText(found),
    isFigure: true,
  },
  {
    id: 'factor',
    head: 'Reckoned with',
    cell: ({ factor }) => <b>{timesText(factor)}</b>,
    sortBy: ({ factor }) => factor,
    text: ({ factor }) => timesText(factor),
    isFigure: true,
  },
];

/** What each topic rests on, in a sentence under its heading. */
const ABOUT: Record<Topic, string> = {
  causes:
    'A job counts for each cause by what was believed of it in the end. By how it is built, by what was said of it, and by its age.',
  ways: 'Held against what was believed as each was chosen, so that a way that gets the easy ones is not praised for it. One that another way had to follow did not bring it back.',
  minutes: 'Steps done in one go, right after another entry of the same person.',
  tester: 'Where a capacity was counted: what the tester showed over what all else says it should have.',
};

function Body({ topic, learned }: { topic: Topic; learned: LearnedAnswer }) {
  switch (topic) {
    case 'causes':
      return <CausesLearned said={learned.causes} />;
    case 'ways':
      return <Table name="Ways here" rows={learned.ways} columns={WAY_COLUMNS} keyOf={wayName} isDense />;
    case 'minutes':
      return (
        <Table
          name="Steps here"
          rows={learned.minutes}
          columns={MINUTE_COLUMNS}
          keyOf={({ step }) => step}
          isDense
        />
      );
    case 'tester': {
      const { count, found, factor } = learned.tester;
      return (
        <p>
          The handbook says it shows what it should. Read {count} {count === 1 ? 'time' : 'times'} here:{' '}
          {timesText(found)}. Reckoned with <b>{timesText(factor)}</b>.
        </p>
      );
    }
  }
}

export function LearningPart({ shop }: { shop: Pick<Shop, 'learning'> }) {
  const kept = shop.learning ?? USUAL_LEARNING;
  const [rule, setRule] = useState<LearningRule>(kept);
  const change = useShopChange();
  const { data: learned, error, refetch } = useLearned();
  const now = useMutation({ mutationFn: () => ask<LearnedAnswer>('/api/ledger/learned', {}) });
  const isChanged = JSON.stringify(rule) !== JSON.stringify(kept);
  if (!learned) return <Waiting on={[{ data: learned, error, refetch }]} />;
  const anew = (topic: Topic): void =>
    setRule({ ...rule, since: { ...rule.since, [topic]: Math.floor(shopNow()) } });
  const again = (topic: Topic): void => {
    const { [topic]: _none, ...since } = rule.since;
    setRule({ ...rule, since });
  };
  return (
    <div>
      <p className="max-w-prose text-soft">
        Every recovery that ends teaches something. The handbook’s word counts as much as the first ten or
        twenty jobs; then this shop’s own outweigh it. It moves odds and minutes, never a limit or a stop
        rule.
      </p>
      {learned.left > 0 && (
        <p className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
          <span className="font-medium">
            {jobsText(learned.left)} {learned.left === 1 ? 'is' : 'are'} still to be looked into; that is done
            in quiet minutes.
          </span>
          <Button onClick={() => now.mutate()} disabled={now.isPending || now.isSuccess}>
            {now.isSuccess ? 'They are looked into …' : 'Look into them now'}
          </Button>
          {now.error && (
            <span role="alert" className="text-clay">
              {sentenceOf(now.error)}
            </span>
          )}
        </p>
      )}
      <fieldset className="mt-3 flex flex-wrap gap-x-6">
        <legend className="sr-only">What counts</legend>
        <Tick
          label={`Jobs of other shops count (${learned.imported})`}
          isOn={rule.countsImported}
          onChange={(countsImported) => setRule({ ...rule, countsImported })}
        />
        <Tick
          label={`Jobs without a grade count (${learned.withdrawn})`}
          isOn={rule.countsWithdrawn}
          onChange={(countsWithdrawn) => setRule({ ...rule, countsWithdrawn })}
        />
      </fieldset>
      <div className="mt-4 space-y-4">
        {TOPIC_IDS.map((topic) => (
          <section key={topic} aria-labelledby={`learned-${topic}`} className={card({ pad: 'wide' })}>
            <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
              <h2 id={`learned-${topic}`} className="text-lg font-bold">
                {TOPICS[topic]}
              </h2>
              <p className="text-soft">
                {learned.jobs[topic] === 0
                  ? 'no job here says anything of it yet: the handbook’s word holds'
                  : `${jobsText(learned.jobs[topic])} here`}
              </p>
              <span className="ml-auto">
                {rule.since[topic] === undefined ? (
                  learned.jobs[topic] > 0 && (
                    <Button onClick={() => anew(topic)} aria-label={`Learn anew: ${TOPICS[topic]}`}>
                      Learn anew
                    </Button>
                  )
                ) : (
                  <Button onClick={() => again(topic)} aria-label={`From all jobs again: ${TOPICS[topic]}`}>
                    From all jobs again
                  </Button>
                )}
              </span>
            </div>
            <p className="mb-2 max-w-prose text-sm text-soft">{ABOUT[topic]}</p>
            {learned.jobs[topic] > 0 && <Body topic={topic} learned={learned} />}
          </section>
        ))}
      </div>
      {isChanged && (
        <WhyBar
          summary="What it learns from changed."
          problem={change.error}
          isPending={change.isPending}
          onSave={(why) => change.mutate({ why, learning: rule })}
          onDrop={() => setRule(kept)}
        />
      )}
    </div>
  );
}
