/**
 * The first day: a shop is set up one thing after the other, each of which can be left for later, taken up again on any
 * tablet, and shows when it is done. Then the first battery.
 */
import { useMutation } from '@tanstack/react-query';
import { Check, Circle, CircleDot, Minus } from 'lucide-react';
import { useState, type ReactNode, useRef } from 'react';
import { v4 as uuid } from 'uuid';
import { Link } from 'react-router';
import type { Charger } from '@cork-ember/core/charge/charger.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import {
  FIRST_DAY,
  FIRST_DAY_STEPS,
  stepAtHand,
  type FirstDay,
  type FirstDayStep,
} from '@cork-ember/core/contract/firstDay.ts';
import type { ShopParts } from '@cork-ember/core/contract/shopWords.ts';
import { ask, sentenceOf } from '../api/client.ts';
import { usePerson } from '../api/person.ts';
import { refreshShop, useShop, useStock } from '../api/queries.ts';
import { Button } from '../ui/Button.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { TextBox } from '../ui/TextBox.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { ChargerTemplates } from './ChargerTemplates.tsx';
import { HoursFields } from './HoursFields.tsx';
import { isOtherwise } from '../region/shopRegion.ts';
import { RegionFields } from './RegionFields.tsx';
import { InstrumentFields } from './InstrumentFields.tsx';
import { IdentityFields } from './IdentityFields.tsx';
import { Title } from '../ui/Title.tsx';
import { card } from '../ui/card.ts';

interface StepProps {
  readonly shop: Shop;
  /** What it sets; with nothing it is right as it stands. */
  readonly onDone: (parts: ShopParts, by?: string) => void;
  readonly foot: (done: () => void, label?: string) => ReactNode;
}

function PeopleStep({ shop, onDone, foot }: StepProps) {
  const [names, setNames] = useState(shop.people.join(', '));
  const people = [
    ...new Set(
      names
        .split(',')
        .map((one) => one.trim())
        .filter((one) => one !== ''),
    ),
  ];
  return (
    <>
      <TextBox
        label="First names, yours first, with commas between"
        value={names}
        most={300}
        placeholder="Maeve, Odd"
        onChange={setNames}
      />
      {foot(
        () => onDone({ people }, people[0]),
        people.length > 0 ? `${people.join(', ')}: that is us` : undefined,
      )}
    </>
  );
}

function ShopStep({ shop, onDone, foot }: StepProps) {
  const [identity, setIdentity] = useState({
    name: shop.name,
    tagLetters: shop.tagLetters,
    timeZone: shop.hours.timeZone,
  });
  const { timeZone, ...called } = identity;
  return (
    <>
      <IdentityFields identity={identity} onChange={setIdentity} />
      {foot(() => onDone({ ...called, hours: { ...shop.hours, timeZone } }))}
    </>
  );
}

function RegionStep({ shop, onDone, foot }: StepProps) {
  const [region, setRegion] = useState(shop.region);
  return (
    <>
      <RegionFields region={region} onChange={setRegion} />
      {foot(() => onDone({ region }))}
    </>
  );
}

function HoursStep({ shop, onDone, foot }: StepProps) {
  const [hours, setHours] = useState(shop.hours);
  return (
    <>
      <HoursFields hours={hours} onChange={setHours} />
      {foot(() => onDone({ hours }))}
    </>
  );
}

function ChargersStep({ shop, onDone, foot }: StepProps) {
  const [added, setAdded] = useState<readonly { readonly charger: Charger; readonly outputs: number }[]>([]);
  const chargers = added.map(({ charger }) => charger);
  const bays = added
    .flatMap(({ charger, outputs }) => Array.from({ length: outputs }, () => charger.id))
    .map((charger, index) => ({ number: index + 1, charger }));
  return (
    <>
      <ul className="mb-3 space-y-2">
        {added.map(({ charger, outputs }) => (
          <li
            key={charger.id}
            className="flex items-center gap-3 rounded-lg border border-line bg-card px-3 py-2"
          >
            <span className="min-w-0 flex-1 truncate font-semibold">{charger.name}</span>
            <span className="reading">{charger.mostA} A</span>
            <span className="text-soft">
              {outputs} bay{outputs === 1 ? '' : 's'}
            </span>
            <Button onClick={() => setAdded(added.filter((one) => one.charger !== charger))}>Remove</Button>
          </li>
        ))}
      </ul>
      <ChargerTemplates
        freeId={() => `charger-${added.length + 1}-${shop.version}`}
        onAdd={(charger, outputs) => setAdded([...added, { charger, outputs }])}
      />
      {added.length === 0
        ? foot(() => onDone({}), 'Six bays with a supply each: that will do')
        : foot(
            () => onDone({ chargers, bays }),
            `${bays.length} bay${bays.length === 1 ? '' : 's'}: that is the bench`,
          )}
    </>
  );
}

function InstrumentsStep({ shop, onDone, foot }: StepProps) {
  const [held, setHeld] = useState(shop.handInstruments);
  return (
    <>
      <InstrumentFields held={held} onChange={setHeld} />
      {foot(() => onDone({ handInstruments: held }))}
    </>
  );
}

function StockStep({ onDone, foot }: StepProps) {
  const { data } = useStock();
  const [amounts, setAmounts] = useState<Readonly<Record<string, number | undefined>>>({});
  const [by] = usePerson();
  const [problem, setProblem] = useState('');
  // What is sent again because no answer came is counted once.
  const keys = useRef<Record<string, string>>({});
  const levels = (data?.levels ?? []).filter(({ unit }) => unit !== 'packs');
  const count = async (): Promise<void> => {
    try {
      for (const { id, unit } of levels) {
        const large = amounts[id];
        if (large === undefined) continue;
        // Told in litres and kilograms, kept in millilitres and grams.
        await ask('/api/stock', {
          by,
          item: id,
          amount: large * (unit === 'packs' ? 1 : 1000),
          why: 'First day',
          requestKey: (keys.current[`${id} ${large}`] ??= uuid()),
        });
        setAmounts((before) => ({ ...before, [id]: undefined }));
      }
      onDone({});
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  return (
    <>
      <div className="grid gap-3 sm:grid-cols-2">
        {levels.map(({ id, name, unit }) => (
          <NumberField
            key={id}
            label={name}
            unit={unit === 'mL' ? 'L' : 'kg'}
            value={amounts[id]}
            onChange={(value) => setAmounts({ ...amounts, [id]: value })}
          />
        ))}
      </div>
      {problem !== '' && (
        <p role="alert" className="mt-2 text-clay">
          {problem}
        </p>
      )}
      {foot(() => void count())}
    </>
  );
}

const FORMS: Readonly<Record<FirstDayStep, (props: StepProps) => ReactNode>> = {
  people: PeopleStep,
  shop: ShopStep,
  region: RegionStep,
  hours: HoursStep,
  chargers: ChargersStep,
  instruments: InstrumentsStep,
  stock: StockStep,
};

const MARKS = { done: Check, skipped: Minus } as const;

export function FirstDayPage() {
  const { data: shop, error, refetch } = useShop();
  const [by, setBy] = usePerson();
  const [asked, setAsked] = useState<FirstDayStep>();
  const change = useMutation({
    mutationFn: ({ parts, firstDay, who }: { parts: ShopParts; firstDay: FirstDay; who: string }) =>
      ask<Shop>('/api/shop/changes', { ...parts, firstDay, by: who, why: 'first day' }),
    onSuccess: async (changed) => {
      // The page goes on in the figures that were just chosen; how far the day has come stands with the shop.
      if (isOtherwise(changed)) window.location.reload();
      await refreshShop();
      setAsked(undefined);
    },
  });
  if (!shop) return <Waiting on={[{ data: shop, error, refetch }]} />;
  const firstDay = shop.firstDay ?? {};
  const step = asked ?? stepAtHand(firstDay);
  const settle = (mark: 'done' | 'skipped', parts: ShopParts = {}, who = by): void => {
    if (!step) return;
    if (who !== '') setBy(who);
    change.mutate({
      parts,
      firstDay: { ...firstDay, [step]: mark },
      // Before anybody is named the shop itself begins.
      who: who === '' ? 'First day' : who,
    });
  };
  const Form = step && FORMS[step];
  return (
    <div className="mx-auto max-w-3xl p-5" data-scans="">
      <Title>First day</Title>
      <p className="mt-1 text-soft">
        Seven things, each a minute; any can be left and taken up later, here or in Setup.
      </p>
      <ol className="mt-4 space-y-3">
        {FIRST_DAY_STEPS.map((one) => {
          const mark = firstDay[one];
          const isOpen = one === step;
          const Mark = isOpen ? CircleDot : mark ? MARKS[mark] : Circle;
          return (
            <li
              key={one}
              aria-current={isOpen ? 'step' : undefined}
              className={card({ edge: isOpen ? 'live' : 'plain' })}
            >
              <div className="flex items-center gap-3">
                <Mark
                  aria-hidden
                  className={`size-6 shrink-0 ${isOpen ? 'text-ember-text' : mark === 'done' ? 'text-verdigris' : 'text-soft'}`}
                />
                <h2 className="min-w-0 flex-1 text-lg font-bold">{FIRST_DAY[one].title}</h2>
                {!isOpen && (
                  <Button onClick={() => setAsked(one)}>
                    {mark === 'done' ? 'Done: look again' : mark ? 'Left: take it up' : 'Open'}
                  </Button>
                )}
              </div>
              {isOpen && Form && (
                <div className="mt-2">
                  <p className="mb-3 text-soft">{FIRST_DAY[one].why}</p>
                  <Form
                    key={`${one} ${shop.version}`}
                    shop={shop}
                    onDone={(parts, who) => settle('done', parts, who)}
                    foot={(done, label = 'That is right') => (
                      <div className="mt-4 flex flex-wrap gap-3">
                        <Button tone="go" disabled={change.isPending} onClick={done}>
                          {label}
                        </Button>
                        <Button disabled={change.isPending} onClick={() => settle('skipped')}>
                          Leave it for later
                        </Button>
                      </div>
                    )}
                  />
                  {change.error && (
                    <p role="alert" className="mt-2 text-clay">
                      {sentenceOf(change.error)}
                    </p>
                  )}
                </div>
              )}
            </li>
          );
        })}
      </ol>
      <Link
        to="/intake"
        className={`mt-5 flex min-h-16 items-center justify-center rounded-lg px-4 text-lg font-medium ${step ? 'border-2 border-cork bg-card' : 'bg-verdigris-deep text-white hover:brightness-110'}`}
      >
        Take your first battery in
      </Link>
    </div>
  );
}
