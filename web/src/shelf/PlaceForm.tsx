/** Where a battery goes from here: what kind of place, which, and how warm it is there. */
import { useState } from 'react';
import { PLACE_KINDS, PLACES, type Place, type PlaceKind } from '@cork-ember/core/shelf/places.ts';
import type { Warmth } from '@cork-ember/core/shelf/warmth.ts';
import { maintains } from '@cork-ember/core/shelf/maintained.ts';
import { useMachines } from '../api/machines.ts';
import { useShop } from '../api/queries.ts';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Combobox } from '../ui/Combobox.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { TextBox } from '../ui/TextBox.tsx';

interface PlaceFormProps {
  /** Places others stand at: one that is named again is as warm as it was. */
  readonly known: readonly Place[];
  readonly was: Place | undefined;
  readonly onPlace: (place: Place) => void;
}

const NAMES = { rack: 'Which', machine: 'Machine', person: 'Who has it' } as const;

/** Where a machine draws on its battery. */
const DRAWS: readonly PlaceKind[] = ['laidUp', 'lent'];

const warmthC = (warmth: Warmth | undefined): number | undefined =>
  warmth && 'tempC' in warmth ? warmth.tempC : undefined;

export function PlaceForm({ known, was, onPlace }: PlaceFormProps) {
  const [kind, setKind] = useState<PlaceKind>(was?.kind ?? 'shelf');
  const [name, setName] = useState(was?.to ?? was?.name ?? '');
  const same = known.find((place) => place.kind === kind && place.name === name.trim());
  const [typedC, setTypedC] = useState<number>();
  const [drawMa, setDraw] = useState<number | undefined>(was?.drawMa);
  const [charger, setCharger] = useState(was?.charger ?? '');
  const maintainers = (useShop().data?.chargers ?? []).filter(maintains);
  const facts = PLACES[kind];
  const machines = useMachines().data ?? [];
  const said = name.trim();
  // Its tag scanned, or its name: the battery is that machine's.
  const machine =
    facts.names === 'machine'
      ? machines.find(({ tag, name: called }) => tag === said.toUpperCase() || called === said)
      : undefined;
  const names = [
    ...(facts.names === 'machine' ? machines.map((one) => one.name) : []),
    ...known.filter((place) => place.kind === kind && place.name !== '').map((place) => place.name),
  ];
  const tempC = typedC ?? warmthC(same?.warmth);
  const place = (): Place => {
    const warmth: Warmth | undefined = typedC === undefined ? same?.warmth : { tempC: typedC };
    return {
      kind,
      name: facts.names === 'person' ? '' : (machine?.name ?? said),
      ...(machine ? { machine: machine.tag } : {}),
      ...(facts.names === 'person' && said !== '' ? { to: said } : {}),
      ...(kind === 'maintainer' && charger !== '' ? { charger } : {}),
      ...(facts.isKept && warmth ? { warmth } : {}),
      ...(DRAWS.includes(kind) && drawMa !== undefined ? { drawMa } : {}),
    };
  };
  return (
    <form
      className="space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        onPlace(place());
      }}
    >
      <Choice
        legend="Where does it go?"
        isNamed
        kind="pill"
        options={PLACE_KINDS.map((id) => ({ id, label: PLACES[id].name }))}
        chosen={kind}
        onChoose={setKind}
      />
      {facts.names && (
        <div>
          <TextBox label={NAMES[facts.names]} value={name} onChange={setName} most={60} />
          {machine && (
            <p className="mt-1 text-sm text-soft">
              {machine.tag}: {machine.name}
            </p>
          )}
          {names.length > 0 && (
            <div className="mt-2 flex flex-wrap gap-2">
              {[...new Set(names)].slice(0, 6).map((one) => (
                <Button key={one} onClick={() => setName(one)}>
                  {one}
                </Button>
              ))}
            </div>
          )}
        </div>
      )}
      {kind === 'maintainer' && maintainers.length > 0 && (
        <Combobox
          label="On which charger"
          value={charger}
          choices={maintainers.map(({ id, name: called }) => ({ value: id, label: called }))}
          onChoose={setCharger}
          placeholder="Nobody has said"
          className="w-full"
        />
      )}
      {facts.isKept && (
        <div className="max-w-40">
          <NumberField
            key={`${kind} ${same?.name ?? ''}`}
            label="How warm it is there"
            unit="°C"
            value={tempC}
            onChange={setTypedC}
          />
        </div>
      )}
      {DRAWS.includes(kind) && (
        <div className="max-w-48">
          <NumberField label="Drawn while connected" unit="mA" value={drawMa} onChange={setDraw} />
        </div>
      )}
      <Button type="submit" tone="go" className="min-h-16 w-full text-lg">
        Put it there
      </Button>
    </form>
  );
}
