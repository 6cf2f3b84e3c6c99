/** Chargers and bays: what each charger can do, which stands where, and the room around them. */
import { MONEY } from '@cork-ember/core/units/localise.ts';
import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import {
  CHARGER_KINDS,
  CHARGED_VOLTS,
  CHARGER_MODES,
  type Charger,
  type ChargerKind,
  type ChargerMode,
  type ChargerPulses,
} from '@cork-ember/core/charge/charger.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { Button } from '../ui/Button.tsx';
import { Checks } from '../ui/Checks.tsx';
import { Combobox } from '../ui/Combobox.tsx';
import { Named } from '../ui/Named.tsx';
import { Tick } from '../ui/Tick.tsx';
import { InstrumentFields } from './InstrumentFields.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { figuresIn } from './figures.ts';
import { freeId } from './freeId.ts';
import { useShopChange } from './useShopChange.ts';
import { WhyBar } from './WhyBar.tsx';
import { card } from '../ui/card.ts';
import { box } from '../ui/box.ts';

const BOX = box();

function without<K extends keyof Charger>(charger: Charger, key: K): Charger {
  return Object.fromEntries(Object.entries(charger).filter(([name]) => name !== key)) as unknown as Charger;
}

/** A usual desulfating charger, until its leaflet is read. */
const USUAL_PULSES: ChargerPulses = { peakA: 10, seconds: 0.0001, hertz: 100, programmeH: 24 };

const PULSE_BOXES = [
  ['peakA', 'Spike', 'A'],
  ['seconds', 'Length of a spike', 's'],
  ['hertz', 'Spikes a second', ''],
  ['programmeH', 'Length of its programme', 'h'],
  ['reconditionV', 'Recondition stage up to, on six cells', 'V'],
  ['maintainFromV', 'Maintains from, on six cells', 'V'],
  ['maintainToV', 'Maintains up to, on six cells', 'V'],
] as const;
const PULSE_OPTIONAL: readonly string[] = ['reconditionV', 'maintainFromV', 'maintainToV'];

/** What the leaflet of a desulfating charger says of its programme. */
function PulseBoxes({ charger, onChange }: { charger: Charger; onChange: (next: Charger) => void }) {
  const pulses = charger.pulses ?? USUAL_PULSES;
  return PULSE_BOXES.map(([key, label, unit]) => (
    <NumberField
      key={key}
      label={label}
      unit={unit}
      value={pulses[key]}
      onChange={(value) => {
        const { [key]: _before, ...rest } = pulses;
        const isNone = value === undefined && PULSE_OPTIONAL.includes(key);
        const next = isNone ? rest : { ...rest, [key]: value ?? Number.NaN };
        onChange({ ...charger, pulses: next as ChargerPulses });
      }}
    />
  ));
}

function ChargerCard({
  charger,
  bays,
  onChange,
  onRemove,
}: {
  charger: Charger;
  bays: readonly number[];
  onChange: (next: Charger) => void;
  onRemove: () => void;
}) {
  const [isOpen, setOpen] = useState(false);
  const { kind, leastA, mostA, mostV, nominalV, modes, detentsA } = charger;
  const set = (part: Partial<Charger>): void => onChange({ ...charger, ...part });
  const range = detentsA ? detentsA.join(', ') : leastA === mostA ? `${mostA}` : `${leastA}–${mostA}`;
  return (
    <li className={card()}>
      <div className="flex flex-wrap items-center gap-3">
        <div className="min-w-0 flex-1">
          <p className="font-semibold">{charger.name}</p>
          <p className="text-sm text-soft">
            {CHARGER_KINDS[kind]} · {range} A · up to {mostV} V · {nominalV.join(' and ')} V
            {modes ? ` · ${modes.join(', ')}` : ''}
            {charger.sharesSetting ? ' · one setting for all outputs' : ''}
            {bays.length > 0 ? ` · bay ${bays.join(', ')}` : ' · in no bay'}
          </p>
          {charger.because !== '' && <p className="text-sm text-soft">{charger.because}</p>}
        </div>
        <Button aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
          {isOpen ? 'Close' : 'Change'}
        </Button>
        <Button
          aria-label={`Remove ${charger.name}`}
          disabled={bays.length > 0}
          title={bays.length > 0 ? 'It stands in a bay; put another there first.' : undefined}
          onClick={onRemove}
        >
          <Trash2 aria-hidden className="size-5" />
        </Button>
      </div>
      {isOpen && (
        <div className="mt-4 grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
          <label className="text-sm font-medium sm:col-span-2">
            Name
            <input
              className={BOX}
              value={charger.name}
              maxLength={60}
              onChange={(event) => set({ name: event.target.value })}
            />
          </label>
          <Named label="What it is" className="text-sm">
            <Combobox
              label="What it is"
              className="w-full text-base"
              value={kind}
              choices={Object.entries(CHARGER_KINDS).map(([value, label]) => ({ value, label }))}
              onChoose={(chosen) => set({ kind: chosen as ChargerKind })}
            />
          </Named>
          <NumberField
            label="Lowest current"
            unit="A"
            value={leastA}
            onChange={(value) => set({ leastA: value ?? Number.NaN })}
          />
          <NumberField
            label="Highest current"
            unit="A"
            value={mostA}
            onChange={(value) => set({ mostA: value ?? Number.NaN })}
          />
          <label className="text-sm font-medium">
            Only these settings, A (none: any)
            <input
              className={`reading ${BOX}`}
              defaultValue={detentsA?.join(' ') ?? ''}
              placeholder="0.8 2 5"
              onBlur={(event) => {
                const list = figuresIn(event.target.value);
                onChange(list.length > 0 ? { ...charger, detentsA: list } : without(charger, 'detentsA'));
              }}
            />
          </label>
          <NumberField
            label="Highest voltage on six cells"
            unit="V"
            value={mostV}
            onChange={(value) => set({ mostV: value ?? Number.NaN })}
          />
          <NumberField
            label="Starts from, on six cells"
            unit="V"
            value={charger.startV}
            onChange={(value) => set({ startV: value ?? Number.NaN })}
          />
          <NumberField
            label="Efficiency, mains to battery"
            unit=""
            value={charger.efficiency}
            onChange={(value) => set({ efficiency: value ?? Number.NaN })}
          />
          <Checks
            label="For batteries of"
            all={CHARGED_VOLTS}
            chosen={nominalV}
            text={(volts) => `${volts} V`}
            onChange={(next) => set({ nominalV: next })}
          />
          <Checks<ChargerMode>
            label="Programmes on its front"
            all={CHARGER_MODES}
            chosen={modes ?? []}
            text={(mode) => mode}
            onChange={(next) =>
              onChange(next.length > 0 ? { ...charger, modes: next } : without(charger, 'modes'))
            }
          />
          <Tick
            label="One setting for all its outputs"
            isOn={charger.sharesSetting === true}
            onChange={(isOn) =>
              onChange(isOn ? { ...charger, sharesSetting: true } : without(charger, 'sharesSetting'))
            }
          />
          {kind === 'pulse' && <PulseBoxes charger={charger} onChange={onChange} />}
          <label className="text-sm font-medium">
            Remark
            <input
              className={BOX}
              value={charger.because}
              maxLength={200}
              onChange={(event) => set({ because: event.target.value })}
            />
          </label>
        </div>
      )}
    </li>
  );
}

type Part = Pick<Shop, 'bays' | 'chargers' | 'room' | 'handInstruments'>;

export function BaysPart({ shop }: { shop: Part }) {
  const [draft, setDraft] = useState(shop);
  const change = useShopChange();
  const { chargers, bays, room, handInstruments } = draft;
  const isChanged = JSON.stringify(draft) !== JSON.stringify(shop);
  const addCharger = (): void => {
    const id = freeId('charger', chargers);
    const added: Charger = {
      id,
      name: `Charger ${chargers.length + 1}`,
      kind: 'bench',
      leastA: 0.5,
      mostA: 10,
      mostV: 16,
      nominalV: [12],
      startV: 0,
      efficiency: 0.75,
      because: '',
    };
    setDraft({ ...draft, chargers: [...chargers, added] });
  };
  return (
    <div>
      <div className="grid gap-6 xl:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
        <section aria-labelledby="chargers-title">
          <h2 id="chargers-title" className="text-lg font-bold">
            Chargers
          </h2>
          <p className="text-soft">The first charge offers only what suits, and says why another does not.</p>
          <ul className="mt-3 space-y-3">
            {chargers.map((charger) => (
              <ChargerCard
                key={charger.id}
                charger={charger}
                bays={bays.filter((bay) => bay.charger === charger.id).map((bay) => bay.number)}
                onChange={(next) =>
                  setDraft({ ...draft, chargers: chargers.map((one) => (one.id === next.id ? next : one)) })
                }
                onRemove={() =>
                  setDraft({ ...draft, chargers: chargers.filter((one) => one.id !== charger.id) })
                }
              />
            ))}
          </ul>
          <Button className="mt-3" onClick={addCharger}>
            <Plus aria-hidden className="size-5" /> Another charger
          </Button>
        </section>
        <section aria-labelledby="bays-title">
          <h2 id="bays-title" className="text-lg font-bold">
            Bays
          </h2>
          <ul className="mt-3 space-y-2">
            {bays.map((bay) => (
              <li key={bay.number} className="flex items-center gap-3">
                <span className="w-8 text-2xl font-bold text-cork-dark">{bay.number}</span>
                <Combobox
                  label={`Charger of bay ${bay.number}`}
                  className="flex-1"
                  value={bay.charger}
                  choices={chargers.map(({ id, name }) => ({ value: id, label: name }))}
                  onChoose={(charger) =>
                    setDraft({
                      ...draft,
                      bays: bays.map((one) => (one === bay ? { ...bay, charger } : one)),
                    })
                  }
                />
              </li>
            ))}
          </ul>
          <div className="mt-3 flex flex-wrap gap-2">
            <Button
              onClick={() =>
                setDraft({
                  ...draft,
                  bays: [...bays, { number: bays.length + 1, charger: chargers[0]?.id ?? '' }],
                })
              }
            >
              <Plus aria-hidden className="size-5" /> Another bay
            </Button>
            {bays.length > 1 && (
              <Button onClick={() => setDraft({ ...draft, bays: bays.slice(0, -1) })}>One bay fewer</Button>
            )}
          </div>
          <h2 className="mt-6 text-lg font-bold">Measured with</h2>
          <p className="mb-2 text-soft">
            Forms begin with what these show; one not told is asked at every step.
          </p>
          <InstrumentFields
            held={handInstruments}
            onChange={(next) => setDraft({ ...draft, handInstruments: next })}
          />
          <h2 className="mt-6 text-lg font-bold">Room and energy</h2>
          <div className="mt-2 grid grid-cols-2 gap-3">
            <NumberField
              label="Room of the bench"
              unit="m³"
              value={room.volumeM3}
              onChange={(value) => setDraft({ ...draft, room: { ...room, volumeM3: value ?? Number.NaN } })}
            />
            <NumberField
              label="A kilowatt-hour"
              unit={MONEY}
              value={room.pricePerKwh}
              onChange={(value) =>
                setDraft({ ...draft, room: { ...room, pricePerKwh: value ?? Number.NaN } })
              }
            />
          </div>
        </section>
      </div>
      {isChanged && (
        <WhyBar
          summary="Chargers, bays, instruments or room changed."
          problem={change.error}
          isPending={change.isPending}
          onSave={(why) => change.mutate({ why, ...draft })}
          onDrop={() => setDraft(shop)}
        />
      )}
    </div>
  );
}
