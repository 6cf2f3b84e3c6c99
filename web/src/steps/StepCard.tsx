/** The step at hand: the caution first, then one large question and one large answer. */
import { useEffect, useRef } from 'react';
import { say, sayTrouble } from '../ui/say.ts';
import { sentenceOf } from '../api/client.ts';
import type { AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import type { Entry } from '@cork-ember/core/runsheet/entries/events.ts';
import type { Outline } from '@cork-ember/core/runsheet/log/outline.ts';
import { definitionOf } from '@cork-ember/core/runsheet/state/sheet.ts';
import { THRESHOLD_NAMES } from '@cork-ember/core/rules/thresholdNames.ts';
import { whenText } from '@cork-ember/core/clock/clockText.ts';
import { painted } from '../api/gently.ts';
import { useRecord, type KeyedPicture } from '../api/record.ts';
import { Cautions } from '../ui/Cautions.tsx';
import { focusQuietly } from '../ui/focusQuietly.ts';
import { Notice } from '../ui/Notice.tsx';
import { SourceChip } from '../ui/SourceChip.tsx';
import { useProblem } from '../ui/useProblem.ts';
import { ActStepBody, GateStepBody } from './GateStepBody.tsx';
import { DwellStepBody } from './DwellStepBody.tsx';
import { LabelSymbols } from './LabelSymbols.tsx';
import { MeasureStepBody } from './MeasureStepBody.tsx';
import { PhotoButton } from './PhotoButton.tsx';
import { Override } from './Override.tsx';
import { later } from '../ui/later.tsx';
import { card } from '../ui/card.ts';

const MOMENT = <p className="p-4 text-soft">One moment …</p>;
const DecideStepBody = later(async () => (await import('./DecideStepBody.tsx')).DecideStepBody, MOMENT);
const RouteStepBody = later(async () => (await import('./RouteStepBody.tsx')).RouteStepBody, MOMENT);
const ChargeStepBody = later(async () => (await import('./ChargeStepBody.tsx')).ChargeStepBody, MOMENT);

/** What a body needs to record something and to say why it could not. */
export interface StepActions {
  readonly record: (entry: Entry, keyed?: KeyedPicture) => Promise<boolean>;
}

/** An entry on its way: what it was made from, and whether it arrives. */
interface Underway {
  readonly seq: number;
  readonly kind: Entry['kind'];
  readonly arrives: Promise<boolean>;
}

function useStepActions(job: Outline): StepActions & { problem: string } {
  const send = useRecord(job);
  const { problem, attempt } = useProblem();
  const underway = useRef<Underway>(undefined);
  const latest = useRef<StepActions['record']>(undefined);
  const isShown = useRef(false);
  useEffect(() => {
    isShown.current = true;
    return () => {
      isShown.current = false;
    };
  }, []);
  const { seq } = job;
  const sendIt = async (entry: Entry, keyed?: KeyedPicture): Promise<boolean> => {
    const { went, failed } = attempt();
    try {
      const sent = await send(entry, keyed);
      went();
      if (sent === 'kept') say('Kept here; it is sent once the server is back.');
      return true;
    } catch (error) {
      // It was shown as answered until the server said no: the step has come back, and this card has gone.
      if (isShown.current) failed(error);
      else sayTrouble(sentenceOf(error));
      return false;
    }
  };
  const record = async (entry: Entry, keyed?: KeyedPicture): Promise<boolean> => {
    const before = underway.current;
    if (!keyed && before?.seq === seq) {
      // The same press twice is one. Another button of the step waits for the first, and is of no use once the step has gone.
      if (before.kind === entry.kind || !(await before.arrives)) return false;
      await painted();
      return isShown.current && latest.current !== undefined && latest.current(entry);
    }
    const mine: Underway = { seq, kind: entry.kind, arrives: sendIt(entry, keyed) };
    underway.current = mine;
    const arrived = await mine.arrives;
    if (underway.current === mine) underway.current = undefined;
    return arrived;
  };
  useEffect(() => {
    latest.current = record;
  });
  return { record, problem };
}

function Body({
  job,
  hand,
  now,
  actions,
}: {
  job: Outline;
  hand: AtHand;
  now: number;
  actions: StepActions;
}) {
  const { definition } = hand;
  switch (definition.kind) {
    case 'gate':
      return <GateStepBody hand={hand} gate={definition} actions={actions} />;
    case 'act':
      return <ActStepBody hand={hand} act={definition} actions={actions} />;
    case 'dwell':
      return <DwellStepBody hand={hand} dwell={definition} now={now} actions={actions} />;
    case 'measure':
      return <MeasureStepBody hand={hand} measure={definition} actions={actions} job={job.state.job} />;
    case 'charge':
      return (
        <ChargeStepBody hand={hand} charge={definition} now={now} actions={actions} job={job.state.job} />
      );
    case 'route':
      return <RouteStepBody hand={hand} actions={actions} />;
    case 'decide':
      return <DecideStepBody hand={hand} decide={definition} actions={actions} />;
  }
}

/** What the reading just taken gives cause to say, if anything. */
function remarkOnLast({ state, context }: AtHand): string | undefined {
  const done = state.steps[state.cursor - 1];
  const definition = done && definitionOf(state, done);
  return definition?.kind === 'measure' && done?.values
    ? definition.remark?.(done.values, context)
    : undefined;
}

/** A recovery under way on a route, which may be left with a reason. */
function isOnRoute({ state, step, definition }: AtHand): boolean {
  const route = state.routes?.at(-1);
  if (step.charge?.stopped) return false;
  return definition.kind !== 'route' && route?.round === step.round && route.leftFor === undefined;
}

export function StepCard({ job, hand, now }: { job: Outline; hand: AtHand; now: number }) {
  const { problem, ...actions } = useStepActions(job);
  const { definition, context, step, hold } = hand;
  const { timeZone } = context.opened.hours;
  const isOverdue = now >= hand.overdueAt;
  const isOn = definition.kind === 'charge' && step.charge !== undefined;
  const cautions = isOn
    ? definition.cautionsWhileOn
    : [...definition.cautions, ...(definition.cautionsFor?.(hand.context) ?? [])];
  const remark = remarkOnLast(hand);
  const title = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    // Where no answer took the keyboard as it came up, the step itself has it: the next Tab goes into it.
    if (document.activeElement === document.body) focusQuietly(title.current);
  }, []);
  return (
    <article
      aria-labelledby="step-title"
      className={card({
        pad: 'none',
        className: 'mx-auto mb-4 flex max-w-3xl flex-col overflow-clip shadow-sm',
      })}
    >
      <Cautions of={cautions} />
      {definition.explains === 'label-symbols' && <LabelSymbols />}
      <div className="px-5 pt-4">
        <h2
          ref={title}
          id="step-title"
          tabIndex={-1}
          className="text-2xl font-bold outline-none md:text-[28px]"
        >
          {definition.title}
        </h2>
        {!isOn && <p className="mt-1 text-[17px] text-soft">{definition.detail(context)}</p>}
        {isOverdue && (
          <p className="mt-2 font-semibold text-clay">
            Overdue: hands were due {whenText(hand.dueAt, now, timeZone)}.
          </p>
        )}
        {remark !== undefined && <p className="mt-2 font-medium text-brass-ink">{remark}</p>}
      </div>
      {hold && hand.phase === undefined && (
        <div className="mt-4">
          <Notice tone="stop">
            <p className="font-semibold">{hold.why}</p>
          </Notice>
        </div>
      )}
      {problem !== '' && (
        <div className="mt-4">
          <Notice tone="stop">{problem}</Notice>
        </div>
      )}
      <Body job={job} hand={hand} now={now} actions={actions} />
      {hold?.canOverride && <Override label="Go on all the same" stepKey={step.key} actions={actions} />}
      {isOnRoute(hand) && (
        <Override label="Leave this route" kind="routeLeft" stepKey={step.key} actions={actions} />
      )}
      <div className="border-t border-line px-3 py-1">
        <PhotoButton stepKey={step.key} title={definition.title} actions={actions} />
      </div>
      {definition.shows && (
        <div className="flex flex-wrap items-center gap-2 border-t border-line px-5 py-3">
          <h3 className="text-sm text-soft">Where the numbers come from</h3>
          {definition.shows.map((id) => (
            <SourceChip key={id} label={THRESHOLD_NAMES[id]} sourced={context.threshold(id)} />
          ))}
        </div>
      )}
    </article>
  );
}
