/** What is to be charged again, off the shelf and onto the bench: planned over bays and chargers, begun in one press. */
import { useMemo, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { v4 as uuid } from 'uuid';
import { DAY_MS } from '@cork-ember/core/shelf/warmth.ts';
import { isTaken, type ListedType } from '@cork-ember/core/battery/types.ts';
import type { JobAnswer, Shop } from '@cork-ember/core/contract/answers.ts';
import { MOST_DELIVERED } from '@cork-ember/core/contract/limits.ts';
import { EDITION } from '@cork-ember/core/runsheet/entries/events.ts';
import { SHELF } from '@cork-ember/core/runsheet/entries/place.ts';
import type { Assignment, PlanBattery } from '@cork-ember/core/schedule/planner.ts';
import type { Shelved } from '@cork-ember/core/shelf/overview.ts';
import { isWantedBy, saidOf, whereOf } from '@cork-ember/core/shelf/words.ts';
import { ask, sentenceOf, ServerAway } from '../api/client.ts';
import { shopNow, useMinute } from '../api/clock.ts';
import { usePerson } from '../api/person.ts';
import { queryClient, SHELVED } from '../api/queries.ts';
import { useShelf } from '../api/shelf.ts';
import { send } from '../store/outbox.ts';
import { BATCH, type Order } from '../store/parcel.ts';
import { buttonClass } from '../ui/Button.tsx';
import { later } from '../ui/later.tsx';
import { Notice } from '../ui/Notice.tsx';
import { say } from '../ui/say.ts';
import { Tick } from '../ui/Tick.tsx';
import { Title } from '../ui/Title.tsx';
import { TONES } from '../ui/tones.ts';
import { Waiting } from '../ui/Waiting.tsx';
import { useDeliveryPlan } from './useDeliveryPlan.ts';
import { usePlanTask, useStartable } from './usePlanTask.ts';

const DeliveryPlan = later(async () => (await import('./DeliveryPlan.tsx')).DeliveryPlan);

/** Nobody waits for one that stands on the shelf; a week on, the next round would ask for it again. */
const WANTED_WITHIN = 7 * DAY_MS;
const FIVE_MINUTES = 300_000;

const REFRESH = 'refresh';

interface RefreshProps {
  readonly shelved: readonly Shelved[];
  readonly types: readonly ListedType[];
  readonly shop: Shop;
}

/** As its run sheet would be opened; none of a type the shop has no more. */
function planned(one: Shelved, types: readonly ListedType[], shop: Shop, dueAt: number): PlanBattery[] {
  const { tag, typeId, serial, dateCode, owner } = one;
  const type = types.find(({ id }) => id === typeId);
  if (!type || !isTaken(type)) return [];
  const opened = {
    edition: EDITION,
    procedure: REFRESH,
    battery: { tag, serial, dateCode, owner },
    type,
    rules: shop.rules,
    hours: shop.hours,
    bay: 1,
    promisedAt: dueAt,
  };
  return [{ id: tag, dueAt, opened }];
}

/** @param tags with commas between them */
function usePlanned(
  tags: string,
  { shelved, types, shop }: RefreshProps,
  dueAt: number,
): readonly PlanBattery[] {
  return useMemo(
    () =>
      tags.split(',').flatMap((tag) => {
        const one = shelved.find((battery) => battery.tag === tag);
        return one ? planned(one, types, shop, dueAt) : [];
      }),
    [tags, shelved, types, shop, dueAt],
  );
}

function Refresh({ shelved, types, shop }: RefreshProps) {
  const now = useMinute();
  const [by] = usePerson();
  const navigate = useNavigate();
  const [params, setParams] = useSearchParams();
  const [problem, setProblem] = useState('');
  const [isSending, setSending] = useState(false);
  // Sent again after an answer that was lost, it is the same request.
  const [keys] = useState(() => new Map<string, string>());
  const offered = shelved.filter(({ place }) => place);
  const wanted = offered.filter((one) => isWantedBy(one, 'recharge', now + DAY_MS));
  const asked = params
    .get('tags')
    ?.split(',')
    .filter((tag) => tag !== '');
  const chosen = new Set(asked ?? wanted.map(({ tag }) => tag));
  // Those that are due first; one that was asked for by its tag stands among them.
  const listed = offered.filter(({ tag }) => chosen.has(tag) || wanted.some((one) => one.tag === tag));
  const at = Math.floor(now / FIVE_MINUTES) * FIVE_MINUTES;
  const tags = listed.flatMap(({ tag }) => (chosen.has(tag) ? [tag] : [])).slice(0, MOST_DELIVERED);
  const batteries = usePlanned(tags.join(), { shelved, types, shop }, at + WANTED_WITHIN);
  const { drawn, problem: unplanned } = useDeliveryPlan(usePlanTask(shop, batteries, 1, at));
  const first = useStartable(shop, drawn?.plan.assignments ?? [], now);
  const choose = (tag: string, isIn: boolean): void => {
    const next = listed.map((one) => one.tag).filter((one) => (one === tag ? isIn : chosen.has(one)));
    setParams({ tags: next.join() }, { replace: true });
  };
  const requestOf = ({ id: tag, bay, layout }: Assignment, begins: boolean): readonly Order[] => {
    const one = shelved.find((battery) => battery.tag === tag);
    if (!one) return [];
    const requestKey = keys.get(tag) ?? uuid();
    keys.set(tag, requestKey);
    const { typeId, serial, dateCode, owner } = one;
    return [
      {
        battery: { tag, typeId, serial, dateCode, owner },
        procedure: REFRESH,
        bay: begins ? bay : SHELF,
        ...(begins ? {} : { plannedAt: Math.round(layout.from) }),
        promisedAt: at + WANTED_WITHIN,
        requestKey,
      },
    ];
  };
  const accept = async (assignments: readonly Assignment[]): Promise<void> => {
    if (by === '') return setProblem('Say who is at the bench first, at the top right.');
    setProblem('');
    setSending(true);
    const requests = assignments.flatMap((one) => requestOf(one, first.includes(one)));
    try {
      const answers = await ask<readonly JobAnswer[]>('/api/deliveries', { by, batteries: requests });
      void queryClient.invalidateQueries({ queryKey: SHELVED });
      const begun = answers.filter((_, index) => requests[index]?.bay !== SHELF);
      void navigate(begun.length > 0 ? `/batch?jobs=${begun.map(({ id }) => id).join(',')}` : '/');
    } catch (failure) {
      if (!(failure instanceof ServerAway)) return setProblem(sentenceOf(failure));
      // Pressed while the server is away it is sent like any entry, once it is there.
      await send({ requestKey: uuid(), job: BATCH, by, enteredAt: shopNow(), orders: requests });
      say(`${requests.length} wait here to be taken in, until the server answers.`);
      void navigate('/shelf');
    } finally {
      setSending(false);
    }
  };
  return (
    <div className="p-5">
      <Title>Charge off the shelf</Title>
      <p className="mt-1 text-soft">
        {listed.length === 0
          ? 'Nothing on the shelf wants a charge by tomorrow.'
          : 'Planned over bays, chargers and hands with the rest of the day. Each gets a run sheet that ends with it proven full and back in its place.'}
      </p>
      {listed.length === 0 && (
        <p className="mt-4">
          <Link to="/shelf" className={buttonClass({ tone: 'go' })}>
            To the shelf
          </Link>
        </p>
      )}
      <ul aria-label="To be charged" className="mt-4 grid gap-x-6 md:grid-cols-2">
        {listed.map((one) => {
          const said = saidOf(one, now, shop.hours.timeZone);
          return (
            <li key={one.tag} className="border-b border-cork py-1">
              <Tick
                isOn={chosen.has(one.tag)}
                onChange={(isOn) => choose(one.tag, isOn)}
                label={
                  <span className="grid flex-1 grid-cols-[1fr_auto] gap-x-3">
                    <b>{one.tag}</b>
                    <span className="reading">
                      {one.prediction && `${one.prediction.volts.likely.toFixed(2)} V`}
                    </span>
                    <span className="col-span-2 text-sm text-soft">{whereOf(one)}</span>
                    <span className={`col-span-2 text-sm font-semibold ${TONES[said.tone]}`}>
                      {said.words}
                    </span>
                  </span>
                }
              />
            </li>
          );
        })}
      </ul>
      {chosen.size > MOST_DELIVERED && (
        <p className="mt-3 font-semibold text-brass-ink">
          The first {MOST_DELIVERED} are planned; the others once these are taken in.
        </p>
      )}
      {[problem, unplanned ?? ''].map(
        (words) =>
          words !== '' && (
            <div key={words} className="mt-3">
              <Notice tone="stop">{words}</Notice>
            </div>
          ),
      )}
      {drawn && tags.length > 0 && (
        <DeliveryPlan
          planned={drawn}
          begins={first.length}
          now={now}
          timeZone={shop.hours.timeZone}
          isSending={isSending}
          calm="All can be back on the shelf within a week"
          onAccept={() => void accept(drawn.plan.assignments)}
        />
      )}
    </div>
  );
}

export function RefreshPage() {
  const { shelved, types, shop, asked } = useShelf();
  if (!shelved || !types || !shop) return <Waiting on={asked} />;
  return <Refresh shelved={shelved} types={types} shop={shop} />;
}
