/** Delivery: several boxes at once, planned before anything is promised. */
import { Plus } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { v4 as uuid } from 'uuid';
import type { JobAnswer } from '@cork-ember/core/contract/answers.ts';
import type { Outline } from '@cork-ember/core/runsheet/log/outline.ts';
import { forecast } from '@cork-ember/core/runsheet/plan/forecast.ts';
import { durationText, whenText } from '@cork-ember/core/clock/clockText.ts';
import { localText } from '@cork-ember/core/clock/localTime.ts';
import type { Assignment, PlanTask } from '@cork-ember/core/schedule/planner.ts';
import { SHELF } from '@cork-ember/core/runsheet/entries/place.ts';
import { bayTimes } from '@cork-ember/core/schedule/bayTimes.ts';
import { openSpanFrom } from '@cork-ember/core/clock/shopHours.ts';
import { ask, sentenceOf } from '../api/client.ts';
import { shopNow, useNow } from '../api/clock.ts';
import { usePerson } from '../api/person.ts';
import { useNextTag, useOpenJobs, useShop, useTypes } from '../api/queries.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Named, Select } from '../ui/Select.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { keepPhotos } from '../label/LabelPhotos.tsx';
import {
  batteriesOf,
  keptText,
  leftOf,
  marksOf,
  MOST,
  type Line,
  type LineBattery,
} from './deliveryLines.ts';
import { LineRow } from './LineRow.tsx';
import { useDeliveryPlan } from './useDeliveryPlan.ts';
import { Title } from '../ui/Title.tsx';

const DRAFT = 'cork-ember-delivery';

/** What was typed stays, whatever happens to the page. */
function keptLines(): readonly Line[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(DRAFT) ?? '[]');
    return Array.isArray(kept) ? (kept as Line[]) : [];
  } catch {
    return [];
  }
}

/** Hands asked for by jobs under way, as far as their cords can be seen. */
function busyOf(jobs: readonly Outline[], now: number): PlanTask['busy'] {
  return jobs.flatMap(({ state }) =>
    forecast(state, now).segments.filter(({ kind, to }) => kind === 'hands' && to > now),
  );
}

function PlanRow({ one, now, timeZone }: { one: Assignment; now: number; timeZone: string }) {
  const charge = one.layout.placed.find(({ kind }) => kind === 'charge');
  return (
    <tr className="border-b border-line">
      <td className="py-2.5 font-semibold">{one.id}</td>
      <td className="py-2.5">{one.bay}</td>
      <td className="reading py-2.5">{whenText(one.layout.from, now, timeZone)}</td>
      <td className="reading py-2.5">{charge ? whenText(charge.from, now, timeZone) : '—'}</td>
      <td className={`reading py-2.5 font-semibold ${one.lateMin > 0 ? 'text-clay' : 'text-verdigris'}`}>
        {whenText(one.layout.readyAt, now, timeZone)}
      </td>
      <td className="py-2.5 text-clay">
        {one.lateMin > 0 ? `${durationText(one.lateMin * 60_000)} late` : ''}
      </td>
    </tr>
  );
}

/** Those that can begin within the hour in a bay that is empty now. */
function startable(
  assignments: readonly Assignment[],
  freeBays: readonly number[],
  now: number,
): Assignment[] {
  const taken = new Set<number>();
  return [...assignments]
    .sort((a, b) => a.layout.from - b.layout.from)
    .filter(({ bay, layout }) => {
      const isNow = layout.from <= now + 3_600_000 && freeBays.includes(bay) && !taken.has(bay);
      if (isNow) taken.add(bay);
      return isNow;
    });
}

/** What accepting the plan does. */
function acceptWords(now: number, all: number): string {
  if (all === 0) return 'None can be done';
  if (now === all) return `Accept ${all} and open the bench for them`;
  return now === 0 ? `Accept ${all}, to begin later` : `Accept ${all}: ${now} begin now, ${all - now} wait`;
}

export function DeliveryPage() {
  const { data: shop } = useShop();
  const { data: types } = useTypes();
  const { data: next, error, refetch } = useNextTag();
  const { jobs } = useOpenJobs();
  const [by] = usePerson();
  const now = useNow();
  const navigate = useNavigate();
  const [lines, setLines] = useState<readonly Line[]>(keptLines);
  const [hands, setHands] = useState(1);
  const [problem, setProblem] = useState('');
  const keep = (next: readonly Line[]): void => {
    localStorage.setItem(DRAFT, keptText(next));
    setLines(next);
  };
  // Planned anew every five minutes, not with every tick.
  const at = Math.floor(now / 300_000) * 300_000;
  const firstTag = next?.number ?? 1;
  const wantedAll = useMemo(
    () => (shop && types ? batteriesOf(lines, types, shop, firstTag).slice(0, MOST) : []),
    [shop, types, lines, firstTag],
  );
  const task = useMemo((): PlanTask | undefined => {
    if (!shop || at === 0 || wantedAll.length === 0) return undefined;
    return {
      now: at,
      hours: shop.hours,
      hands,
      batteries: wantedAll,
      busy: busyOf(jobs, at),
      bays: bayTimes(
        shop.bays,
        jobs.map(({ state }) => state),
        at,
      ).flatMap(({ number, freeAt }) => {
        const id = shop.bays.find((bay) => bay.number === number)?.charger;
        const charger = shop.chargers.find((one) => one.id === id);
        return charger ? [{ number, charger, freeAt }] : [];
      }),
    };
  }, [shop, wantedAll, hands, jobs, at]);
  const { drawn: planned, problem: unplanned } = useDeliveryPlan(task);
  if (!shop || !types || !next) return <Waiting error={error} retry={() => void refetch()} />;
  const { timeZone } = shop.hours;
  const marks = marksOf(lines, shop.tagLetters, firstTag);
  const add = (): void => {
    const last = lines.at(-1);
    const tomorrow = openSpanFrom(shop.hours, openSpanFrom(shop.hours, shopNow()).to).to;
    const fresh: Line = {
      typeId: '',
      count: 1,
      dateCode: last?.dateCode ?? '',
      owner: last?.owner ?? '',
      promised: last?.promised ?? localText(tomorrow - 3_600_000, timeZone),
    };
    keep([...lines, fresh]);
  };
  const freeBays = shop.bays
    .map(({ number }) => number)
    .filter((number) => !jobs.some(({ state }) => state.bay === number));
  const first = planned ? startable(planned.plan.assignments, freeBays, now) : [];
  const accept = async (): Promise<void> => {
    if (by === '') return setProblem('Say who is at the bench first, at the top right.');
    const taken: LineBattery[] = [];
    const opened: string[] = [];
    try {
      for (const { id, bay, layout } of planned?.plan.assignments ?? []) {
        const wanted = wantedAll.find((one) => one.id === id);
        if (!wanted) continue;
        const isNow = first.some((one) => one.id === id);
        const { battery, type } = wanted.opened;
        // A type of its own comes with the first battery of it, and so do the pictures of its label.
        const isFirstOwn = wanted.isOwn && !taken.some((one) => one.line === wanted.line);
        const { isJustThese = false, photos = [] } = lines[wanted.line] ?? {};
        const answer = await ask<JobAnswer>('/api/jobs', {
          battery: { ...battery, typeId: type.id },
          ...(isFirstOwn ? { type: isJustThese ? { ...type, isRetired: true } : type } : {}),
          // What begins later is booked: it waits on the shelf for its start.
          ...(isNow ? { bay } : { bay: SHELF, plannedAt: Math.round(layout.from) }),
          promisedAt: wanted.dueAt,
          by,
          requestKey: uuid(),
        });
        if (isNow) opened.push(answer.id);
        taken.push(wanted);
        if (isFirstOwn) await keepPhotos(answer, photos, by);
      }
    } catch (failure) {
      setProblem(sentenceOf(failure));
    }
    // What was taken in leaves the list; what the plan cannot do stays on it.
    keep(leftOf(lines, taken));
    if (taken.length > 0) void navigate(opened.length > 0 ? `/batch?jobs=${opened.join(',')}` : '/');
  };
  return (
    <div className="p-5" data-scans="">
      <Title>A delivery</Title>
      <p className="mt-1 text-soft">
        Several boxes, planned before they are promised: bays, chargers, hands and closing time kept.
      </p>
      <ul className="mt-4 space-y-3">
        {lines.map((line, index) => (
          <LineRow
            key={index}
            line={line}
            mark={marks[index] ?? ''}
            index={index}
            types={types}
            hours={shop.hours}
            now={now}
            onChange={(next) => keep(lines.map((one, i) => (i === index ? next : one)))}
            onRemove={() => keep(lines.filter((_, i) => i !== index))}
          />
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap items-end gap-3">
        <Button onClick={add}>
          <Plus aria-hidden className="size-5" /> {lines.length === 0 ? 'First type' : 'Another type'}
        </Button>
        <Named label="Pairs of hands" className="text-sm">
          <Select
            label="Pairs of hands"
            className="w-28 text-base"
            value={String(hands)}
            choices={['1', '2', '3', '4'].map((count) => ({ value: count, label: count }))}
            onChoose={(count) => setHands(Number(count))}
          />
        </Named>
      </div>
      {[problem, unplanned ?? ''].map(
        (said) =>
          said !== '' && (
            <div key={said} className="mt-3">
              <Notice tone="stop">{said}</Notice>
            </div>
          ),
      )}
      {planned && (
        <section aria-label="Plan" className="mt-5 rounded-xl border border-line bg-card p-4">
          <p className={`text-xl font-bold ${planned.plan.lateMin > 0 ? 'text-clay' : 'text-verdigris'}`}>
            {planned.plan.lateMin > 0
              ? `${planned.plan.assignments.filter(({ lateMin }) => lateMin > 0).length} of ${planned.task.batteries.length} would be late`
              : 'All can be ready when promised'}
          </p>
          {planned.help && (
            <div className="mt-2">
              <Notice tone="caution">
                What helps most: {planned.help.sentence}{' '}
                {planned.help.lateMin > 0
                  ? `Then ${durationText(planned.help.lateMin * 60_000)} late in all.`
                  : 'Then nothing is late.'}
              </Notice>
            </div>
          )}
          {planned.plan.impossible.map(({ id, reason }) => (
            <div key={id} className="mt-2">
              <Notice tone="stop">
                {id}: {reason}
              </Notice>
            </div>
          ))}
          <div className="overflow-x-auto">
            <table className="mt-3 w-full min-w-140 text-left">
              <thead>
                <tr className="border-b-2 border-line text-sm text-soft">
                  {['Tag', 'Bay', 'Begins', 'On charge', 'Ready', ''].map((head) => (
                    <th key={head} className="py-2 font-medium">
                      {head}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {[...planned.plan.assignments]
                  .sort((a, b) => a.layout.from - b.layout.from || a.bay - b.bay)
                  .map((one) => (
                    <PlanRow key={one.id} one={one} now={now} timeZone={timeZone} />
                  ))}
              </tbody>
            </table>
          </div>
          <Button
            tone="go"
            className="mt-4 min-h-16 w-full text-lg"
            disabled={planned.plan.assignments.length === 0}
            onClick={() => void accept()}
          >
            {acceptWords(first.length, planned.plan.assignments.length)}
          </Button>
          {first.length < planned.plan.assignments.length && (
            <p className="mt-2 text-soft">
              What begins later waits on the shelf and is called for when its start is due.
            </p>
          )}
        </section>
      )}
    </div>
  );
}
