/** Where a recovery goes next: what is shut to it first, the way that is advised large, every other with its odds. */
import { useMemo } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { waysOn, type WayOn } from '@cork-ember/core/adapters/waysForJob.ts';
import { CHECK_NAMES } from '@cork-ember/core/advice/bestCheck.ts';
import type { AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import { procedureOf } from '@cork-ember/core/runsheet/state/sheet.ts';
import { percentText } from '@cork-ember/core/units/percent.ts';
import { sentenceOf } from '../api/client.ts';
import { useShop } from '../api/queries.ts';
import type { Misfit } from '@cork-ember/core/belief/misfit.ts';
import { Misfits } from '../judgement/Misfits.tsx';
import { Odds } from '../judgement/Odds.tsx';
import { useAdvice, type Advice } from '../judgement/useAdvice.ts';
import { useBelief } from '../judgement/useBelief.ts';
import { Stages } from '../judgement/Stages.tsx';
import { Weighing } from '../judgement/Weighing.tsx';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { WAY_COLUMNS, WayRow } from './WayRow.tsx';
import type { StepActions } from './StepCard.tsx';
import { card } from '../ui/card.ts';

/** What no reason opens stands above everything that is weighed. */
function Closed({ closed }: { closed: ReturnType<typeof waysOn>['closed'] }) {
  if (closed.length === 0) return null;
  return (
    <details className="mx-5 mt-2 border-y border-line">
      <summary className="flex min-h-12 cursor-pointer items-center gap-2 text-soft">
        <span className="shrink-0 font-medium">Not open to it, and why:</span>
        <span className="min-w-0 truncate">{closed.map(({ title }) => title).join(', ')}</span>
      </summary>
      <ul className="space-y-2 pb-3">
        {closed.map(({ title, why }) => (
          <li key={title}>
            <span className="font-medium">{title}:</span> <span className="text-soft">{why}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** A check that pays is made before anything is chosen. */
function ReadFirst({ best, onRead }: { best: Advice['best']; onRead: (() => void) | undefined }) {
  if (!best?.pays) return null;
  const { check, minutes, changes } = best.advised;
  return (
    <div className="mb-3 flex flex-wrap items-center gap-3 rounded-lg bg-brass-wash px-4 py-2 text-brass-ink">
      <p className="min-w-0 flex-[1_1_11rem]">
        <span className="font-semibold">{CHECK_NAMES[check]} first.</span> {minutes.toFixed(0)} min; it would
        change this choice {percentText(changes)} of the time.
      </p>
      {onRead && <Button onClick={onRead}>Enter it</Button>}
    </div>
  );
}

interface AdvisedProps {
  readonly way: WayOn | undefined;
  readonly advice: Advice;
  /** Readings that fit nothing that is believed: the advice is held back. */
  readonly misfits: readonly Misfit[];
  readonly onTake: (way: WayOn) => void;
  readonly onRead: (() => void) | undefined;
}

/** The way that is advised, with what it is worth and one press to take it; its room is kept while it is weighed. */
function Advised({ way, advice, misfits, onTake, onRead }: AdvisedProps) {
  const isDoubted = misfits.length > 0;
  const { recommendation, comparison, error } = advice;
  const scored = comparison?.scored.find(({ course }) => course.id === way?.course?.id);
  return (
    <section aria-label="Advised" aria-live="polite" className="mx-5 mt-4 min-h-52">
      {error !== null && error !== undefined && (
        <Notice tone="stop">
          <p>The ways could not be compared: {sentenceOf(error)} Every way open can be chosen below.</p>
          <Button onClick={advice.again}>Try again</Button>
        </Notice>
      )}
      <div className="mb-3 empty:hidden">
        <Misfits misfits={misfits} />
      </div>
      <Weighing advice={advice} />
      {recommendation && way && scored && (
        <div className={card({ edge: 'asking' })}>
          <ReadFirst best={advice.best} onRead={onRead} />
          <p className="text-sm text-soft">
            {isDoubted
              ? 'Were all of it so, advised as it stands'
              : advice.best?.pays
                ? 'Without it, advised as it stands'
                : 'Advised as it stands'}
          </p>
          <h3 className="text-2xl font-bold text-ember-text">{recommendation.title}</h3>
          <div className="mt-2">
            <Odds odds={scored.odds} />
          </div>
          <p className="mt-2">{recommendation.reason}</p>
          <Stages scored={scored} />
          <p className="mt-1 text-soft">{recommendation.turns}</p>
          <Button
            tone={way.route.id === 'retire' ? 'danger' : isDoubted ? 'plain' : 'go'}
            className="mt-3 min-h-16 w-full text-lg"
            onClick={() => onTake(way)}
          >
            Begin: {way.route.title}
          </Button>
        </div>
      )}
    </section>
  );
}

/** As they are worth, once that is known; what is not forecast comes last. */
function inOrder(ways: readonly WayOn[], { comparison }: Advice): readonly WayOn[] {
  if (!comparison) return ways;
  const rank = new Map(comparison.scored.map(({ course }, at) => [course.id, at]));
  const placeOf = ({ course }: WayOn): number => rank.get(course?.id ?? '') ?? comparison.scored.length;
  return [...ways].sort((a, b) => placeOf(a) - placeOf(b));
}

export function RouteStepBody({ hand, actions }: { hand: AtHand; actions: StepActions }) {
  const { state, step } = hand;
  const { data: shop } = useShop();
  const belief = useBelief(state);
  const advice = useAdvice(state, belief);
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const chargers = shop?.chargers;
  const { open, closed } = useMemo(() => waysOn(state, chargers), [state, chargers]);
  const advised = open.find(({ course }) => course?.id === advice.recommendation?.course);
  const others = inOrder(
    open.filter((way) => way !== advised),
    advice,
  );
  const take = (way: WayOn, reason?: string): void =>
    void actions.record({
      kind: 'routed',
      payload: { step: step.key, route: way.route.id, ...(reason === undefined ? {} : { reason }) },
    });
  const check = advice.best?.advised.check;
  // A batch has no room for a reading beside its steps.
  const canRead = check !== undefined && pathname.startsWith('/jobs/');
  const titleOf = (id: string): string =>
    procedureOf(state).routes?.find((route) => route.id === id)?.title ?? id;
  return (
    <div className="@container pb-4">
      {state.routes && state.routes.length > 0 && (
        <p className="px-5 pt-2 text-soft">
          So far:{' '}
          {state.routes
            .map(({ route, leftFor }) =>
              leftFor === undefined ? titleOf(route) : `${titleOf(route)} (left: ${leftFor})`,
            )
            .join(', ')}
          .
        </p>
      )}
      <Closed closed={closed} />
      <Advised
        way={advised}
        advice={advice}
        misfits={belief.believed?.misfits ?? []}
        onTake={take}
        onRead={canRead ? () => void navigate(`?read=${check}`) : undefined}
      />
      <div className={`${WAY_COLUMNS} mx-5 mt-4 px-4 text-sm text-soft`} aria-hidden>
        <span>{advised ? 'Other ways open to it' : 'Ways open to it'}</span>
        {advice.comparison && (
          <span className="hidden @2xl:contents">
            <span>comes back as</span>
            <span className="text-right">worth</span>
            <span className="text-right">time</span>
            <span className="text-right">hands</span>
          </span>
        )}
      </div>
      <ul
        key={others.map(({ key }) => key).join()}
        aria-label={advised ? 'Other ways open to it' : 'Ways open to it'}
        className="settles mx-5 mt-1 rounded-xl border border-line"
      >
        {others.map((way) => (
          <WayRow
            key={way.key}
            way={way}
            scored={advice.comparison?.scored.find(({ course }) => course.id === way.course?.id)}
            onTake={(reason) => take(way, reason)}
          />
        ))}
      </ul>
    </div>
  );
}
