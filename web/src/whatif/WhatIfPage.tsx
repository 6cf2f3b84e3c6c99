/** What-if: up to four charge plans tried on one battery, before a charger is touched. */
import { useMemo, useState } from 'react';
import type { BatteryRecord } from '@cork-ember/core/contract/answers.ts';
import type { ListedType } from '@cork-ember/core/battery/types.ts';
import { winsOf } from '@cork-ember/core/whatif/answer.ts';
import type { Condition, PlanChoice, Question, Room } from '@cork-ember/core/whatif/question.ts';
import { useNow } from '../api/clock.ts';
import { useOpenJobs } from '../api/jobs.ts';
import { useBattery, useBatteryPage, useShop, useTypes } from '../api/queries.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { useLabelCheck } from '../label/readLabel.ts';
import { BatteryPanel } from './BatteryPanel.tsx';
import { knownBattery, knownByHand, knownByLabel, knownType, type Known } from './choice.ts';
import { MARKS, markOf } from './marks.ts';
import { PlanRow } from './PlanRow.tsx';
import { saveFile } from '../ui/saveFile.ts';
import { sayTrouble } from '../ui/say.ts';
import { sentenceOf } from '../api/client.ts';
import type { Drawing } from './csv.ts';
import { SPANS, type Asked } from './address.ts';
import { useAnswers } from './useAnswers.ts';
import { useAsked } from './useAsked.ts';
import { Title } from '../ui/Title.tsx';
import { later } from '../ui/later.tsx';
import { card } from '../ui/card.ts';

const SendPlan = later(async () => (await import('./SendPlan.tsx')).SendPlan);

const PlanTable = later(async () => (await import('./PlanTable.tsx')).PlanTable);

/** Drawn once there is something to draw: what is asked does not wait for it. */
const Charts = later(
  async () => (await import('./Charts.tsx')).Charts,
  <p className="text-soft">The charts are fetched …</p>,
);

async function saveCsv(name: string, drawings: readonly Drawing[]): Promise<void> {
  try {
    const { csvOf } = await import('./csv.ts');
    saveFile('what-if.csv', csvOf(name, drawings));
  } catch (error) {
    sayTrouble(sentenceOf(error));
  }
}

const FRESH: Condition = { charge: 0.3, sulfation: 0, years: 0, tempC: 21, fault: 'none' };
const NO_TYPES: readonly ListedType[] = [];

function useChoice({ battery: chosen, byHand, answers }: Asked) {
  const listed = useTypes();
  const { data: types = NO_TYPES } = listed;
  const { jobs } = useOpenJobs();
  const now = useNow();
  const { data: battery } = useBattery(chosen.startsWith('tag:') ? chosen.slice(4) : '');
  const [words, setWords] = useState('');
  const { data: found } = useBatteryPage({
    words,
    where: 'anywhere',
    sort: 'last',
    page: 0,
  });
  const batteries = useMemo((): readonly BatteryRecord[] => {
    const rows = found?.rows ?? [];
    return battery && !rows.some(({ tag }) => tag === battery.tag) ? [battery, ...rows] : rows;
  }, [battery, found]);
  const isClockSet = now > 0;
  const check = useLabelCheck(chosen === 'label');
  const known = useMemo((): Known => {
    const type = types.find(({ id }) => chosen === `type:${id}` || id === battery?.typeId);
    if (battery && type && isClockSet) {
      const job = jobs.find(({ state }) => state.opened.battery.tag === battery.tag);
      // The age of stock does not change while one looks: the moment it was chosen will do.
      return knownBattery(battery, type, job, job?.state.openedAt ?? Date.parse(`${battery.dateCode}-15`));
    }
    if (chosen === 'label') return knownByLabel(answers, check);
    return type ? knownType(type) : knownByHand(byHand);
  }, [answers, battery, byHand, check, chosen, isClockSet, jobs, types]);
  const isReady = types.length > 0;
  return {
    known,
    batteries,
    find: setWords,
    types,
    jobs,
    now,
    isReady,
    listed,
  };
}

export function WhatIfPage() {
  const [asked, ask] = useAsked();
  const choice = useChoice(asked);
  const { known } = choice;
  const { plans, hours, isTable } = asked;
  const condition = useMemo(
    (): Condition => asked.condition ?? { ...FRESH, ...known.condition },
    [known, asked.condition],
  );
  const { data: shop } = useShop();
  const room = useMemo(
    (): Room => asked.room ?? shop?.room ?? { volumeM3: 30, pricePerKwh: 0.3 },
    [asked.room, shop?.room],
  );
  const [sending, setSending] = useState<number>();
  const question = useMemo(
    (): Question => ({
      rating: known.rating,
      subject: known.subject,
      condition,
      plans,
      room,
      hours,
    }),
    [condition, hours, known, plans, room],
  );
  const { answered, progress, problem, cancel } = useAnswers(question);
  const answers = answered?.answers;
  const drawings = useMemo(
    () =>
      answers?.flatMap(({ name, charger, outcome }, index) =>
        outcome ? [{ index, name, charger, outcome }] : [],
      ) ?? [],
    [answers],
  );
  const untilS = useMemo(() => {
    const longest = Math.max(3600, ...drawings.map(({ outcome }) => outcome.atS));
    return Math.ceil(longest / 3600) * 3600;
  }, [drawings]);
  const wins = useMemo(() => winsOf(answers ?? []), [answers]);
  if (!choice.isReady) return <Waiting on={[choice.listed]} />;

  const change = (index: number, next: PlanChoice): void =>
    ask({ plans: plans.map((plan, at) => (at === index ? next : plan)) });
  const sent = sending === undefined ? undefined : answers?.[sending];
  return (
    <div className="flex min-h-full flex-col lg:h-full lg:flex-row">
      <div className="shrink-0 border-b border-line bg-panel p-4 lg:w-76 lg:overflow-auto lg:border-r lg:border-b-0">
        <Title className="mb-3 text-2xl font-bold">What if</Title>
        <BatteryPanel
          known={known}
          chosen={asked.battery}
          onChoose={(battery) => ask({ battery, condition: undefined })}
          batteries={choice.batteries}
          onFind={choice.find}
          types={choice.types}
          byHand={asked.byHand}
          onByHand={(byHand) => ask({ byHand })}
          answers={asked.answers}
          onAnswers={(answers) => ask({ answers })}
          condition={condition}
          onCondition={(condition) => ask({ condition })}
          room={room}
          onRoom={(room) => ask({ room })}
        />
      </div>
      {known.refusal === undefined ? (
        <div className="min-w-0 flex-1 space-y-3 p-4 lg:overflow-auto">
          <div className="flex flex-wrap items-center gap-2">
            <h2 className="mr-auto text-lg font-semibold">{known.name}</h2>
            <div role="group" aria-label="How far to look" className="flex gap-1">
              {SPANS.map((span) => (
                <Button
                  key={span.hours}
                  tone={span.hours === hours ? 'go' : 'plain'}
                  aria-pressed={span.hours === hours}
                  onClick={() => ask({ hours: span.hours })}
                >
                  {span.name}
                </Button>
              ))}
            </div>
          </div>
          {problem !== undefined && <Notice tone="stop">{problem}</Notice>}
          {progress !== undefined && (
            <p role="status" className="flex items-center gap-3">
              Working it out: {Math.round(progress * 100)} %{' '}
              <Button tone="quiet" onClick={cancel}>
                Stop
              </Button>
            </p>
          )}
          <ol aria-label="Plans" className={card({ pad: 'none', className: 'px-4' })}>
            {plans.map((plan, index) => (
              <PlanRow
                key={index}
                index={index}
                choice={plan}
                answer={answers?.[index]}
                untilS={untilS}
                wins={wins.filter((win) => win.plan === index).map(({ on, by }) => `${on}: ${by}`)}
                onChange={(next) => change(index, next)}
                onRemove={
                  plans.length > 1 ? () => ask({ plans: plans.filter((_, at) => at !== index) }) : undefined
                }
                onSend={() => setSending(index)}
              />
            ))}
          </ol>
          <div className="flex flex-wrap gap-2">
            {plans.length < MARKS.length && (
              <Button onClick={() => ask({ plans: [...plans, { plan: 'long-soak', charger: 'supply' }] })}>
                Try another plan: {markOf(plans.length).letter}
              </Button>
            )}
            <Button className="ml-auto" aria-pressed={isTable} onClick={() => ask({ isTable: !isTable })}>
              {isTable ? 'Show as charts' : 'Show as table'}
            </Button>
            <Button disabled={drawings.length === 0} onClick={() => void saveCsv(known.name, drawings)}>
              Save as CSV
            </Button>
          </div>
          {isTable ? (
            <PlanTable drawings={drawings} untilS={untilS} />
          ) : (
            <Charts drawings={drawings} untilS={untilS} />
          )}
          <p className="text-sm text-soft">
            Forecast by the cell model: what a battery like this one does, not what this one will do. The
            label and the maker’s instructions come first.
          </p>
        </div>
      ) : (
        <div className="min-w-0 flex-1 space-y-3 p-4">
          <h2 className="text-lg font-semibold">{known.name}</h2>
          <Notice tone="stop">{known.refusal}</Notice>
        </div>
      )}
      {sent && (
        <SendPlan answer={sent} jobs={choice.jobs} now={choice.now} onClose={() => setSending(undefined)} />
      )}
    </div>
  );
}
