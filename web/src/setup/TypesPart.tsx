/** Battery types: label values and maker's sheets, edited in place, in and out as CSV and JSON. */
import { Download, Upload } from 'lucide-react';
import { useRef, useState } from 'react';
import {
  KIND_NAMES,
  shortName,
  type BatteryType,
  type PrintedValues,
} from '@cork-ember/core/battery/types.ts';
import { askWithFile, sentenceOf } from '../api/client.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { NumberBox } from './NumberBox.tsx';
import { useShopChange } from './useShopChange.ts';
import { WhyBar } from './WhyBar.tsx';

const PRINTED: readonly (readonly [id: keyof PrintedValues, label: string, unit: string])[] = [
  ['chargeCurrentA', 'Charge current', 'A'],
  ['quickCurrentA', 'Quick, attended', 'A'],
  ['chargeTimeH', 'Charge time', 'h'],
  ['ceilingV', 'Charge voltage', 'V'],
  ['packDwellMin', 'Pack stays on', 'min'],
  ['soakMin', 'Soak', 'min'],
  ['fillDensity', 'Electrolyte', 'g/cm³'],
  ['postTorqueNm', 'Post torque', 'N·m'],
];

function withPrinted(
  type: BatteryType,
  part: 'label' | 'sheet',
  id: keyof PrintedValues,
  value: number | undefined,
): BatteryType {
  const kept = Object.entries(type[part]).filter(([name]) => name !== id);
  return { ...type, [part]: Object.fromEntries(value === undefined ? kept : [...kept, [id, value]]) };
}

function TypeCard({
  type,
  isChanged,
  onChange,
}: {
  type: BatteryType;
  isChanged: boolean;
  onChange: (next: BatteryType) => void;
}) {
  const [isOpen, setOpen] = useState(false);
  return (
    <li className={`rounded-xl border bg-card p-4 ${isChanged ? 'border-2 border-ember' : 'border-line'}`}>
      <div className="flex flex-wrap items-center gap-3">
        <div className="min-w-0 flex-1">
          <p className="reading font-semibold">{type.id}</p>
          <p className="text-sm text-soft">
            {type.maker} · {shortName(type)} at {type.hourRate} h · {KIND_NAMES[type.kind]}
            {type.cranking ? ` · ${type.cranking.amps} A ${type.cranking.standard}` : ''}
            {type.pack ? ` · pack ${type.pack.code}, ${type.pack.volumeMl} mL` : ''}
          </p>
        </div>
        <Button aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
          {isOpen ? 'Close' : 'Change'}
        </Button>
      </div>
      {isOpen &&
        (['label', 'sheet'] as const).map((part) => (
          <fieldset key={part} className="mt-4">
            <legend className="font-semibold">
              {part === 'label' ? 'Printed on the label' : 'On the maker’s sheet'}
            </legend>
            <div className="mt-1 grid grid-cols-2 gap-3 md:grid-cols-4">
              {PRINTED.map(([id, label, unit]) => (
                <NumberBox
                  key={id}
                  label={label}
                  unit={unit}
                  value={type[part][id]}
                  onChange={(value) => onChange(withPrinted(type, part, id, value))}
                />
              ))}
            </div>
          </fieldset>
        ))}
    </li>
  );
}

export function TypesPart({ types }: { types: readonly BatteryType[] }) {
  const [draft, setDraft] = useState<readonly BatteryType[]>();
  const [problem, setProblem] = useState('');
  const [round, setRound] = useState(0);
  const file = useRef<HTMLInputElement>(null);
  const drop = (): void => {
    setDraft(undefined);
    setRound(round + 1);
  };
  const change = useShopChange(drop);
  const shown = draft ?? types;
  const before = new Map(types.map((type) => [type.id, JSON.stringify(type)]));
  const changed = shown.filter((type) => before.get(type.id) !== JSON.stringify(type));
  const read = async (chosen: File): Promise<void> => {
    try {
      const isCsv = /\.csv$/i.test(chosen.name);
      const plain = new File([chosen], chosen.name, { type: isCsv ? 'text/csv' : 'text/plain' });
      setDraft(await askWithFile<readonly BatteryType[]>('/api/types/read', plain));
      setRound(round + 1);
      setProblem('');
    } catch (error) {
      setProblem(sentenceOf(error));
    }
    if (file.current) file.current.value = '';
  };
  const link =
    'inline-flex min-h-12 items-center gap-2 rounded-lg border-2 border-cork bg-card px-4 font-medium hover:bg-paper';
  return (
    <div>
      <div className="flex flex-wrap items-center gap-3">
        <p className="mr-auto max-w-xl">
          What the label prints wins, then the maker’s sheet, then the house, then the handbook. Each run
          sheet says where its numbers come from.
        </p>
        <a className={link} href="/api/types.csv" download>
          <Download aria-hidden className="size-5" /> CSV
        </a>
        <a className={link} href="/api/types.json" download>
          <Download aria-hidden className="size-5" /> JSON
        </a>
        <input
          ref={file}
          type="file"
          accept=".csv,.json"
          aria-label="File of types"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            const chosen = event.target.files?.[0];
            if (chosen) void read(chosen);
          }}
        />
        <Button onClick={() => file.current?.click()}>
          <Upload aria-hidden className="size-5" /> Read a file
        </Button>
      </div>
      {problem !== '' && (
        <div className="mt-3">
          <Notice tone="stop">{problem} Nothing was changed.</Notice>
        </div>
      )}
      <ul key={round} className="mt-4 space-y-3">
        {shown.map((type) => (
          <TypeCard
            key={type.id}
            type={type}
            isChanged={changed.includes(type)}
            onChange={(next) => setDraft(shown.map((one) => (one.id === next.id ? next : one)))}
          />
        ))}
      </ul>
      {changed.length > 0 && (
        <WhyBar
          summary={`${changed.length} type${changed.length === 1 ? '' : 's'} changed or new: ${changed
            .map(({ id }) => id)
            .slice(0, 4)
            .join(', ')}${changed.length > 4 ? ' …' : ''}.`}
          problem={change.error}
          isPending={change.isPending}
          onSave={(why) => change.mutate({ why, types: shown })}
          onDrop={drop}
        />
      )}
    </div>
  );
}
