/** Several brought back at once: a minute of meter and eyes each, then those first that answer soonest for the least hands. */
import { Plus } from 'lucide-react';
import { useCallback, useMemo, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { v4 as uuid } from 'uuid';
import type { Scored } from '@cork-ember/core/advice/compare.ts';
import { inOrder, type InOrder, type Tried } from '@cork-ember/core/advice/inOrder.ts';
import { moneyText } from '@cork-ember/core/advice/worth.ts';
import { ownerFrom } from '@cork-ember/core/battery/owner.ts';
import { isTaken, type ListedType } from '@cork-ember/core/battery/types.ts';
import type { BatteryRecord, JobAnswer, MachineAnswer, Shop } from '@cork-ember/core/contract/answers.ts';
import { SHELF } from '@cork-ember/core/runsheet/entries/place.ts';
import { foldJob } from '@cork-ember/core/runsheet/log/fold.ts';
import { percentText } from '@cork-ember/core/units/percent.ts';
import { ask, sentenceOf } from '../api/client.ts';
import { shopNow } from '../api/clock.ts';
import { useOpenJobs } from '../api/jobs.ts';
import { useMachine } from '../api/machines.ts';
import { usePerson } from '../api/person.ts';
import { useClock, useNextTag, useShop, useTypes } from '../api/queries.ts';
import { recordOn } from '../api/record.ts';
import { useEnterOnShelf } from '../api/enterOnShelf.ts';
import { Button } from '../ui/Button.tsx';
import { card } from '../ui/card.ts';
import { Combobox } from '../ui/Combobox.tsx';
import { Notice } from '../ui/Notice.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { TextBox } from '../ui/TextBox.tsx';
import { Tick } from '../ui/Tick.tsx';
import { Title } from '../ui/Title.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import {
  broughtDraft,
  choicesOf,
  markOf,
  namesOf,
  placeIn,
  PROMISED_WITHIN,
  readingOf,
  recoveryOf,
  rowsOfMachine,
  toldOf,
  trialOf,
  wantedOf,
  type BroughtDraft,
  type BroughtRow,
} from './broughtRows.ts';
import { Judging } from './Judging.tsx';

/** So many are named to begin with. */
const FIRST = 3;

interface BroughtProps {
  readonly shop: Shop;
  readonly types: readonly ListedType[];
  readonly firstTag: number;
  /** They came out of it together. */
  readonly machine: MachineAnswer | undefined;
}

/** What is known of one by now. */
function Standing({
  row,
  type,
  order,
  isJudging,
  onAgain,
  onRecycle,
}: {
  readonly row: BroughtRow;
  readonly type: ListedType | undefined;
  readonly order: InOrder | undefined;
  readonly isJudging: boolean;
  /** Judges it once more, where that failed. */
  readonly onAgain: (() => void) | undefined;
  /** Puts down that it goes to the recycler. */
  readonly onRecycle: (() => void) | undefined;
}) {
  const recycle = onRecycle && (
    <Button tone="quiet" onClick={onRecycle}>
      It is with the recycler
    </Button>
  );
  const wanted = row.isDamaged ? undefined : wantedOf(row, type);
  if (wanted !== undefined) return <p className="text-soft">{wanted}</p>;
  if (row.isDamaged)
    return <p className="font-semibold text-clay">Damaged: not charged, to the recycler. {recycle}</p>;
  if (onAgain)
    return (
      <p className="text-brass-ink">
        It could not be judged.{' '}
        <Button tone="quiet" onClick={onAgain}>
          Try again
        </Button>
      </p>
    );
  if (!order) return <p className="text-soft">{isJudging ? 'Being judged …' : 'Waits to be judged.'}</p>;
  if (order.isHopeless || !order.way)
    return (
      <p className="font-semibold text-clay">
        Hopeless: {percentText(order.odds)} come back. To the recycler, unless a reading says otherwise.{' '}
        {recycle}
      </p>
    );
  const { way, odds, perHour } = order;
  const pays = perHour > 0;
  return (
    <p>
      <b className={pays ? 'text-verdigris' : 'text-brass-ink'}>{percentText(odds)} come back</b>, by{' '}
      {way.course.title}, {way.handsMin.toFixed(0)} min of hands;{' '}
      {pays
        ? `${moneyText(perHour)} for an hour of them.`
        : `its hands cost ${moneyText(-perHour)} an hour more than it brings.`}
    </p>
  );
}

function Brought({ shop, types, firstTag, machine }: BroughtProps) {
  const enter = useEnterOnShelf();
  const [kept] = useState(() => broughtDraft(machine?.tag ?? ''));
  const [draft, setDraft] = useState<BroughtDraft>(() => {
    const typed = kept.read();
    if (!machine || (typed && typed.rows.length > 0)) return typed ?? { owner: '', rows: [] };
    return { owner: machine.owner, rows: rowsOfMachine(machine, uuid) };
  });
  const [scored, setScored] = useState<ReadonlyMap<string, readonly Scored[] | 'failed'>>(new Map());
  const [problem, setProblem] = useState('');
  const [isSending, setSending] = useState(false);
  const [begunAt] = useState(() => shopNow());
  const [by] = usePerson();
  const { jobs } = useOpenJobs();
  const navigate = useNavigate();
  const { rows, owner } = draft;
  const byId = useMemo(() => new Map(types.map((type) => [type.id, type])), [types]);
  const choices = useMemo(() => choicesOf(types), [types]);
  const keep = (next: BroughtDraft): void => {
    kept.write(next);
    setDraft(next);
  };
  const change = (id: string, more: Partial<BroughtRow>): void =>
    keep({ ...draft, rows: rows.map((row) => (row.id === id ? { ...row, ...more } : row)) });
  const judgeable = rows.filter((row) => !row.isDamaged && wantedOf(row, byId.get(row.typeId)) === undefined);
  const next = judgeable.find((row) => !scored.has(markOf(row, owner)));
  const nextMark = next && markOf(next, owner);
  const onJudged = useCallback(
    (found: readonly Scored[] | 'failed') => {
      if (nextMark !== undefined) setScored((before) => new Map(before).set(nextMark, found));
    },
    [nextMark],
  );
  const judgeAgain = (mark: string): void =>
    setScored((before) => new Map([...before].filter(([one]) => one !== mark)));
  const orders = inOrder(
    rows.flatMap((row): readonly Tried[] => {
      const { id, isDamaged } = row;
      const found = scored.get(markOf(row, owner));
      if (isDamaged) return [{ id, scored: [], isDamaged }];
      return found === undefined || found === 'failed' ? [] : [{ id, scored: found, isDamaged }];
    }),
  );
  const names = useMemo(() => namesOf(rows, shop.tagLetters, firstTag), [rows, shop.tagLetters, firstTag]);
  const nameOf = (id: string): string => names.get(id) ?? '';
  /** Those that stay keep the tags they were shown with: they may be written on them by now. */
  const without = (ids: ReadonlySet<string>): readonly BroughtRow[] =>
    rows.filter(({ id }) => !ids.has(id)).map((row) => ({ ...row, tag: nameOf(row.id) }));
  const promising = orders.filter(({ isHopeless }) => !isHopeless);
  const paying = promising.filter(({ perHour }) => perHour > 0);
  // Where some pay their hands, those that do not are not among the first.
  const first = (paying.length > 0 ? paying : promising).slice(0, FIRST);
  const shown = [...rows].sort((a, b) => {
    const place = ({ id }: BroughtRow): number => {
      const at = orders.findIndex((order) => order.id === id);
      return at === -1 ? rows.length : at;
    };
    return next === undefined ? place(a) - place(b) : 0;
  });
  const nextType = next && byId.get(next.typeId);
  const procedure = nextType && recoveryOf(nextType);
  const trial =
    next && nextType && isTaken(nextType) && procedure !== undefined
      ? trialOf(next, nextType, procedure, shop, begunAt, owner)
      : undefined;
  const recordOf = (row: BroughtRow): BatteryRecord => ({
    tag: nameOf(row.id),
    typeId: row.typeId,
    serial: row.serial ?? '',
    dateCode: row.dateCode.trim(),
    owner: ownerFrom(owner),
  });
  const isKnown = ({ tag }: BatteryRecord): boolean =>
    machine?.batteries.some((one) => one.tag === tag) === true;
  /** One of a machine's set: the machine remembers which of them failed. */
  const recycle = async (row: BroughtRow): Promise<void> => {
    if (!machine) return;
    const battery = recordOf(row);
    try {
      await enter(
        battery.tag,
        { kind: 'placed', payload: { place: { kind: 'recycled', name: '', machine: machine.tag } } },
        isKnown(battery) ? undefined : battery,
      );
      keep({ ...draft, rows: without(new Set([row.id])) });
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  const takeIn = async (): Promise<void> => {
    if (by === '') return setProblem('Say who is at the bench first, at the top right.');
    setProblem('');
    setSending(true);
    try {
      const free = shop.bays.filter(({ number }) => !jobs.some(({ state }) => state.bay === number));
      const taken = promising.flatMap(({ id }) => rows.find((row) => row.id === id) ?? []);
      const batteries = taken.map((row, index) => {
        const type = byId.get(row.typeId);
        return {
          battery: recordOf(row),
          procedure: type && recoveryOf(type),
          bay: free[index]?.number ?? SHELF,
          promisedAt: shopNow() + PROMISED_WITHIN,
          told: toldOf(owner),
          requestKey: row.id,
        };
      });
      if (machine)
        // Which machine they work in is written down before the bench has them.
        for (const { battery } of batteries)
          await enter(
            battery.tag,
            { kind: 'placed', payload: { place: placeIn(machine) } },
            isKnown(battery) ? undefined : battery,
          );
      const answers = await ask<readonly JobAnswer[]>('/api/deliveries', { by, batteries });
      for (const [index, { events }] of answers.entries()) {
        const volts = taken[index]?.volts;
        if (volts !== undefined && events.length === 1)
          await recordOn(foldJob(events), by, { kind: 'evidenced', payload: { reading: readingOf(volts) } });
      }
      const ids = new Set(taken.map(({ id }) => id));
      keep({ ...draft, rows: without(ids) });
      void navigate(`/batch?jobs=${answers.map(({ id }) => id).join(',')}`);
    } catch (error) {
      setProblem(sentenceOf(error));
    } finally {
      setSending(false);
    }
  };
  return (
    <div className="mx-auto max-w-5xl p-5">
      <Title>{machine ? `The set of ${machine.name}` : 'Brought back together'}</Title>
      <p className="mt-1 text-soft">
        A minute each: meter across the posts, nothing connected, and a look at the case. Those that bring
        most for an hour of hands come first.
      </p>
      <div className="mt-3 max-w-sm">
        <TextBox
          label="Whose they are"
          value={owner}
          onChange={(next) => keep({ ...draft, owner: next })}
          most={80}
        />
      </div>
      {promising.length > 0 && next === undefined && (
        <p
          className={`mt-4 text-xl font-bold ${paying.length === 0 ? 'text-brass-ink' : 'text-verdigris'}`}
          role="status"
        >
          {paying.length === 0
            ? 'None pays its hands by the shop’s costs; if they are wanted, start with '
            : 'Start with '}
          {first.map(({ id }) => nameOf(id)).join(', ')}.
        </p>
      )}
      <ol className="mt-4 space-y-3">
        {shown.map((row) => {
          const type = byId.get(row.typeId);
          return (
            <li key={row.id} aria-label={nameOf(row.id)} className={card({ pad: 'snug' })}>
              <div className="flex flex-wrap items-end gap-3">
                <b className="w-24 self-center text-lg">{nameOf(row.id)}</b>
                <div className="min-w-56 flex-1">
                  <Combobox
                    label="Type"
                    value={row.typeId}
                    choices={choices}
                    onChoose={(typeId) => change(row.id, { typeId })}
                    placeholder="Type"
                    className="w-full"
                  />
                </div>
                <div className="w-32">
                  <NumberField
                    label="Voltage"
                    unit="V"
                    value={row.volts}
                    onChange={(volts) => {
                      const { volts: _volts, ...rest } = row;
                      const changed = volts === undefined ? rest : { ...rest, volts };
                      keep({ ...draft, rows: rows.map((one) => (one.id === row.id ? changed : one)) });
                    }}
                  />
                </div>
                <div className="w-32">
                  <TextBox
                    label="Date code"
                    value={row.dateCode}
                    onChange={(dateCode) => change(row.id, { dateCode })}
                    placeholder="2021-05"
                    most={7}
                  />
                </div>
                <Button
                  tone="quiet"
                  aria-label={`Take ${nameOf(row.id)} off the list`}
                  onClick={() => keep({ ...draft, rows: rows.filter(({ id }) => id !== row.id) })}
                >
                  Off the list
                </Button>
              </div>
              <Tick
                label="Cracked, bulged or leaking"
                isOn={row.isDamaged}
                onChange={(isDamaged) => change(row.id, { isDamaged })}
              />
              <Standing
                row={row}
                type={type}
                order={orders.find(({ id }) => id === row.id)}
                isJudging={row.id === next?.id}
                onRecycle={machine && type && (() => void recycle(row))}
                onAgain={
                  scored.get(markOf(row, owner)) === 'failed'
                    ? () => judgeAgain(markOf(row, owner))
                    : undefined
                }
              />
            </li>
          );
        })}
      </ol>
      <div className="mt-3 flex flex-wrap gap-3">
        <Button
          onClick={() =>
            keep({
              ...draft,
              rows: [
                ...rows,
                { id: uuid(), typeId: rows.at(-1)?.typeId ?? '', dateCode: '', isDamaged: false },
              ],
            })
          }
        >
          <Plus aria-hidden className="size-5" /> {rows.length === 0 ? 'The first' : 'One more'}
        </Button>
      </div>
      {problem !== '' && (
        <div className="mt-3">
          <Notice tone="stop">{problem}</Notice>
        </div>
      )}
      {promising.length > 0 && next === undefined && (
        <Button
          tone="go"
          className="mt-4 min-h-16 w-full text-lg"
          disabled={isSending}
          onClick={() => void takeIn()}
        >
          {isSending
            ? 'Taking them in …'
            : `Take ${promising.length === 1 ? 'it' : `these ${promising.length}`} in, in this order`}
        </Button>
      )}
      {trial && <Judging key={trial.job} state={trial} onJudged={onJudged} />}
    </div>
  );
}

export function BroughtPage() {
  const [params] = useSearchParams();
  const asked = params.get('machine')?.toUpperCase() ?? '';
  const machine = useMachine(asked);
  const [shops, listed, tags, clock] = [useShop(), useTypes(), useNextTag(), useClock()];
  if (!shops.data || !listed.data || !tags.data || !clock.data || (asked !== '' && !machine.data))
    return <Waiting on={[shops, listed, tags, clock, ...(asked === '' ? [] : [machine])]} />;
  return (
    <Brought
      key={asked}
      shop={shops.data}
      types={listed.data}
      firstTag={tags.data.number}
      machine={machine.data}
    />
  );
}
