/** Chargers added from plain templates with a question or two, and how many outputs each has: its bays. */
import { useState } from 'react';
import { Plus } from 'lucide-react';
import {
  CHARGED_VOLTS,
  CHARGER_MODES,
  type Charger,
  type ChargerMode,
} from '@cork-ember/core/charge/charger.ts';
import { MODE_NAMES } from '@cork-ember/core/charge/judge.ts';
import { chargerFrom, TEMPLATES, type TemplateId } from '@cork-ember/core/charge/templates.ts';
import { Button } from '../ui/Button.tsx';
import { Checks } from '../ui/Checks.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Tick } from '../ui/Tick.tsx';
import { TextBox } from '../ui/TextBox.tsx';
import { figuresIn } from './figures.ts';
import { card } from '../ui/card.ts';

const KINDS = Object.entries(TEMPLATES).map(([id, { title }]) => ({ id: id as TemplateId, label: title }));
const FILLING = CHARGER_MODES.filter((mode) => mode !== 'maintain');

interface TemplatesProps {
  readonly freeId: () => string;
  readonly onAdd: (charger: Charger, outputs: number) => void;
}

export function ChargerTemplates({ freeId, onAdd }: TemplatesProps) {
  const [template, setTemplate] = useState<TemplateId>();
  const [name, setName] = useState('');
  const [knob, setKnob] = useState('');
  const [mostV, setMostV] = useState<number>();
  const [modes, setModes] = useState<readonly ChargerMode[]>([]);
  const [volts, setVolts] = useState<readonly number[]>([12]);
  const [outputs, setOutputs] = useState<number | undefined>(1);
  const [sharesSetting, setShares] = useState(false);
  const [problem, setProblem] = useState('');
  const add = (): void => {
    if (!template) return;
    const settings = figuresIn(knob);
    try {
      const charger = chargerFrom(template, freeId(), {
        name,
        mostA: settings.at(-1) ?? Number.NaN,
        // A supply and a maintainer have one figure: the most they give.
        ...(template === 'knob' || template === 'automatic' ? { settingsA: settings } : {}),
        ...(mostV === undefined ? {} : { mostV }),
        ...(modes.length > 0 ? { modes } : {}),
        nominalV: volts,
        sharesSetting: sharesSetting && (outputs ?? 1) > 1,
      });
      onAdd(charger, Math.max(1, Math.min(16, Math.round(outputs ?? 1))));
      setTemplate(undefined);
      setName('');
      setKnob('');
      setProblem('');
    } catch (error) {
      setProblem(error instanceof RangeError ? error.message : 'This charger cannot be added as it is.');
    }
  };
  return (
    <div className={card({ edge: 'asking' })}>
      <p className="font-medium">Add a charger</p>
      <div className="mt-2">
        <Choice
          kind="pill"
          legend="What kind it is"
          options={KINDS}
          chosen={template}
          onChoose={setTemplate}
        />
      </div>
      {template && (
        <div className="mt-4 space-y-4">
          <div className="grid items-end gap-3 sm:grid-cols-3">
            <TextBox
              isReading
              label={`${TEMPLATES[template].asks} A`}
              value={knob}
              placeholder={template === 'knob' || template === 'automatic' ? '2 6 10' : '10'}
              onChange={setKnob}
            />
            <TextBox
              label="Called in this shop"
              value={name}
              most={60}
              placeholder={TEMPLATES[template].title}
              onChange={setName}
            />
            <NumberField label="Outputs, each a bay" unit="" value={outputs} onChange={setOutputs} />
          </div>
          {(outputs ?? 1) > 1 && (
            <Tick label="One setting for all its outputs" isOn={sharesSetting} onChange={setShares} />
          )}
          {template === 'supply' ? (
            <div className="grid sm:grid-cols-3">
              <NumberField label="Volts at most" unit="V" value={mostV} onChange={setMostV} />
            </div>
          ) : (
            <Checks
              label="For batteries of"
              all={CHARGED_VOLTS}
              chosen={volts}
              text={(one) => `${one} V`}
              onChange={setVolts}
            />
          )}
          {template === 'automatic' && (
            <Checks
              label="Programmes on its front"
              all={FILLING}
              chosen={modes}
              text={(mode) => MODE_NAMES[mode]}
              onChange={setModes}
            />
          )}
          {problem !== '' && (
            <p role="alert" className="text-clay">
              {problem}
            </p>
          )}
          <Button onClick={add} disabled={volts.length === 0}>
            <Plus aria-hidden className="size-5" /> Add it
          </Button>
        </div>
      )}
    </div>
  );
}
