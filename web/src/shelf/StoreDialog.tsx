/** How warm one place is: one figure, month by month, or from a logger's file. */
import { useState } from 'react';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { storeNamed } from '@cork-ember/core/shelf/stores.ts';
import { warmthAt, type Warmth } from '@cork-ember/core/shelf/warmth.ts';
import { warmthText } from '@cork-ember/core/shelf/warmthText.ts';
import { ask, sentenceOf } from '../api/client.ts';
import { usePerson } from '../api/person.ts';
import { refreshShop } from '../api/queries.ts';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Notice } from '../ui/Notice.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { say } from '../ui/say.ts';
import { RoomLogFile } from './RoomLogFile.tsx';

const KINDS = [
  { id: 'even', label: 'The same all year' },
  { id: 'months', label: 'Month by month' },
  { id: 'logged', label: 'From a logger' },
] as const;
type Kind = (typeof KINDS)[number]['id'];

const kindOf = (warmth: Warmth): Kind =>
  'tempC' in warmth ? 'even' : 'loggedC' in warmth ? 'logged' : 'months';

const MONTHS = Array.from({ length: 12 }, (_, month) =>
  new Date(Date.UTC(2026, month, 15)).toLocaleDateString('en', { month: 'long', timeZone: 'UTC' }),
);
/** Its middle, for what it was taken to be. */
const middleOf = (month: number): number => Date.UTC(2026, month, 15);

interface StoreDialogProps {
  readonly name: string;
  /** As it is taken to be now. */
  readonly warmth: Warmth;
  readonly shop: Shop;
  readonly onClose: () => void;
}

export function StoreDialog({ name, warmth, shop, onClose }: StoreDialogProps) {
  const [by] = usePerson();
  const [kind, setKind] = useState<Kind>(kindOf(warmth));
  const [tempC, setTemp] = useState<number | undefined>('tempC' in warmth ? warmth.tempC : undefined);
  const [byMonthC, setMonths] = useState<readonly (number | undefined)[]>(() =>
    MONTHS.map((_, month) =>
      'tempC' in warmth ? warmth.tempC : Math.round(warmthAt({ byMonthC: warmth.byMonthC }, middleOf(month))),
    ),
  );
  const [logged, setLogged] = useState<Warmth | undefined>('loggedC' in warmth ? warmth : undefined);
  const [problem, setProblem] = useState('');
  const told = (): Warmth | undefined => {
    if (kind === 'logged') return logged;
    if (kind === 'even') return tempC === undefined ? undefined : { tempC };
    const all = byMonthC.flatMap((value) => (value === undefined ? [] : [value]));
    return all.length === MONTHS.length ? { byMonthC: all } : undefined;
  };
  const keep = async (): Promise<void> => {
    if (by === '') return setProblem('Say who is at the bench first, at the top right.');
    const next = told();
    if (!next)
      return setProblem(
        kind === 'logged'
          ? 'Choose the logger’s file first.'
          : 'How warm is it there, in °C? Every field wants a figure.',
      );
    const before = storeNamed(shop.stores, name);
    const stores = [...shop.stores.filter((store) => store !== before), { name, warmth: next }];
    try {
      await ask('/api/shop/changes', {
        by,
        why: 'how warm it is there',
        version: shop.version,
        stores,
      });
      void refreshShop();
      say(`${name}: ${warmthText(next)}.`);
      onClose();
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  return (
    <Dialog
      title={name}
      said="For all that stand there, and for the days they stood there before."
      onClose={onClose}
      className="w-[min(38rem,94vw)]"
    >
      <form
        className="mt-4 space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <Choice legend="How it is known" kind="pill" options={KINDS} chosen={kind} onChoose={setKind} />
        {kind === 'even' && (
          <div className="max-w-40">
            <NumberField label="All year" unit="°C" value={tempC} onChange={setTemp} />
          </div>
        )}
        {kind === 'months' && (
          <div className="grid grid-cols-3 gap-3 sm:grid-cols-4">
            {MONTHS.map((month, index) => (
              <NumberField
                key={month}
                label={month}
                unit="°C"
                value={byMonthC[index]}
                onChange={(value) => setMonths(byMonthC.map((old, at) => (at === index ? value : old)))}
              />
            ))}
          </div>
        )}
        {kind === 'logged' && (
          <RoomLogFile before={warmth} timeZone={shop.hours.timeZone} logged={logged} onLogged={setLogged} />
        )}
        {problem !== '' && <Notice tone="stop">{problem}</Notice>}
        <Button type="submit" tone="go" className="min-h-16 w-full text-lg">
          So warm it is
        </Button>
      </form>
    </Dialog>
  );
}
