/** Delivery: several boxes at once, planned before anything is promised. */
import { Plus } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { v4 as uuid } from 'uuid';
import { sayTrouble, sayWithUndo } from '../ui/say.ts';
import { MOST_DELIVERED } from '@cork-ember/core/contract/limits.ts';
import type { JobAnswer } from '@cork-ember/core/contract/answers.ts';
import { localText } from '@cork-ember/core/clock/localTime.ts';
import { SHELF } from '@cork-ember/core/runsheet/entries/place.ts';
import { openSpanFrom } from '@cork-ember/core/clock/shopHours.ts';
import { ask, Refusal, sentenceOf } from '../api/client.ts';
import { shopNow, useNow } from '../api/clock.ts';
import { usePerson } from '../api/person.ts';
import { useClock, useNextTag, useShop, useTypes } from '../api/queries.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Combobox } from '../ui/Combobox.tsx';
import { Named } from '../ui/Named.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { keepPhotos } from '../label/keepPhotos.ts';
import { useLabelCheck } from '../label/readLabel.ts';
import { batteriesOf, keptOf, leftOf, marksOf, typeOf, wantedOf, type Line } from './deliveryLines.ts';
import { DELIVERY_DRAFT, requestsOf, type Draft, type Unanswered } from './deliveryDraft.ts';
import { LineRow } from './LineRow.tsx';
import { useDeliveryPlan } from './useDeliveryPlan.ts';
import { usePlanTask, useStartable } from './usePlanTask.ts';
import { Title } from '../ui/Title.tsx';
import { later } from '../ui/later.tsx';

const DeliveryPlan = later(async () => (await import('./DeliveryPlan.tsx')).DeliveryPlan);

export function DeliveryPage() {
  const [shops, listed, tags, clock] = [useShop(), useTypes(), useNextTag(), useClock()];
  const { data: shop } = shops;
  const { data: types } = listed;
  const { data: next } = tags;
  const [by] = usePerson();
  const now = useNow();
  const navigate = useNavigate();
  const [{ lines, unanswered }, setDraft] = useState<Draft>(() => DELIVERY_DRAFT.read() ?? { lines: [] });
  const [isSending, setSending] = useState(false);
  const [hands, setHands] = useState(1);
  const [problem, setProblem] = useState('');
  const keep = (next: readonly Line[], sent?: Unanswered): void => {
    const draft = { lines: next, ...(sent ? { unanswered: sent } : {}) };
    DELIVERY_DRAFT.write({ ...draft, lines: keptOf(next) });
    setDraft(draft);
  };
  // Planned anew every five minutes, not with every tick.
  const at = Math.floor(now / 300_000) * 300_000;
  const firstTag = next?.number ?? 1;
  const check = useLabelCheck(lines.some(({ answers }) => answers !== undefined));
  const wantedAll = useMemo(
    () =>
      shop && types ? batteriesOf(lines, types, shop, firstTag, at, check).slice(0, MOST_DELIVERED) : [],
    [shop, types, lines, firstTag, at, check],
  );
  const task = usePlanTask(shop, wantedAll, hands, at);
  const { drawn: planned, problem: unplanned } = useDeliveryPlan(task);
  const first = useStartable(shop, planned?.plan.assignments ?? [], now);
  if (!shop || !types || !next || !clock.data) return <Waiting on={[shops, listed, tags, clock]} />;
  const { timeZone } = shop.hours;
  const marks = marksOf(lines, shop.tagLetters, firstTag);
  const add = (): void => {
    const last = lines.at(-1);
    const tomorrow = openSpanFrom(shop.hours, openSpanFrom(shop.hours, shopNow()).to).to;
    const fresh: Line = {
      id: uuid(),
      typeId: '',
      count: 1,
      dateCode: last?.dateCode ?? '',
      owner: last?.owner ?? '',
      promised: last?.promised ?? localText(tomorrow - 3_600_000, timeZone),
    };
    keep([...lines, fresh]);
  };
  const accept = async (): Promise<void> => {
    if (by === '') return setProblem('Say who is at the bench first, at the top right.');
    const text = JSON.stringify(keptOf(lines));
    const sent =
      unanswered?.lines === text
        ? unanswered.sent
        : requestsOf(planned?.plan.assignments ?? [], wantedAll, first, lines);
    setProblem('');
    setSending(true);
    keep(lines, { lines: text, sent });
    try {
      const batteries = sent.map(({ request }) => request);
      const answers = await ask<readonly JobAnswer[]>('/api/deliveries', { by, batteries });
      // What was taken in leaves the list; what the plan cannot do stays on it.
      keep(leftOf(lines, sent));
      await keepAllPhotos(answers, sent);
      const begun = answers.filter((_, at) => batteries[at]?.bay !== SHELF).map(({ id }) => id);
      void navigate(begun.length > 0 ? `/batch?jobs=${begun.join(',')}` : '/');
    } catch (failure) {
      // A server that said no has taken nothing in; one that said nothing may have.
      if (failure instanceof Refusal) keep(lines);
      setProblem(sentenceOf(failure));
    } finally {
      setSending(false);
    }
  };
  /** Pictures of a label go with the first battery of its line; one that fails takes nothing else down. */
  const keepAllPhotos = async (
    answers: readonly JobAnswer[],
    sent: readonly { readonly line: string }[],
  ): Promise<void> => {
    for (const { id, photos = [] } of lines) {
      const answer = answers[sent.findIndex(({ line }) => line === id)];
      if (answer && photos.length > 0)
        await keepPhotos(answer, photos, by).catch((error: unknown) => sayTrouble(sentenceOf(error)));
    }
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
            key={line.id}
            line={line}
            mark={marks.get(line.id) ?? ''}
            index={index}
            types={types}
            wanted={wantedOf(line, typeOf(line, types, marks.get(line.id) ?? '', check), timeZone, now)}
            hours={shop.hours}
            now={now}
            onChange={(next) => keep(lines.map((one) => (one.id === line.id ? next : one)))}
            onRemove={() => {
              keep(lines.filter(({ id }) => id !== line.id));
              sayWithUndo(`Line ${index + 1} is off the list.`, () => keep(lines));
            }}
          />
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap items-end gap-3">
        <Button onClick={add}>
          <Plus aria-hidden className="size-5" /> {lines.length === 0 ? 'First type' : 'Another type'}
        </Button>
        <Named label="Pairs of hands" className="text-sm">
          <Combobox
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
        <DeliveryPlan
          planned={planned}
          begins={first.length}
          now={now}
          timeZone={timeZone}
          isSending={isSending}
          onAccept={() => void accept()}
        />
      )}
    </div>
  );
}
