/**
 * A type read off the label: the figures a label has, in the order it has them, each of which may be left open. What it
 * makes of them, and what follows from what is not known, stands below.
 */
import { useState, type ReactNode } from 'react';
import { CONSTRUCTIONS, CONSTRUCTION } from '@cork-ember/core/battery/construction.ts';
import type { LabelAnswers } from '@cork-ember/core/battery/labelledType.ts';
import {
  CRANKING_STANDARDS,
  isTaken,
  nominalV,
  shortName,
  USUAL_CELLS,
  type ListedType,
} from '@cork-ember/core/battery/types.ts';
import { Combobox } from '../ui/Combobox.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Choice } from '../ui/Choice.tsx';
import { TextBox } from '../ui/TextBox.tsx';
import { Tick } from '../ui/Tick.tsx';
import { readLabel, useLabelCheck } from './readLabel.ts';
import { typeChoices } from './typeChoices.ts';
import { card } from '../ui/card.ts';

export interface LabelFormProps {
  /** Types it may be like. */
  readonly types: readonly ListedType[];
  /** Tells it from others of its kind and size: the battery's tag. */
  readonly mark: string;
  readonly answers: LabelAnswers;
  readonly onAnswers: (answers: LabelAnswers) => void;
}

const BUILT = [
  ...CONSTRUCTIONS.map((id) => ({ id, label: CONSTRUCTION[id].name })),
  { id: 'sealed', label: 'Sealed, not said' },
] as const;
const VOLTS = USUAL_CELLS.map((cells) => ({ id: String(cells), label: `${nominalV({ cells })} V` }));
const COMES = [
  { id: 'in-service', label: 'In use already' },
  { id: 'own-pack', label: 'Dry, with its own pack' },
  { id: 'bulk-acid', label: 'Dry, filled by hand' },
  { id: 'factory-activated', label: 'New, filled at the factory' },
] as const;
const MADE_FOR = [
  { id: 'starter', label: 'Starting' },
  { id: 'deep-cycle', label: 'Deep cycles' },
  { id: 'standby', label: 'Standby, general' },
] as const;
const POSITIVE = [
  { id: 'left', label: 'Left' },
  { id: 'right', label: 'Right' },
  { id: 'unknown', label: 'Elsewhere' },
] as const;
const STANDARDS = CRANKING_STANDARDS.map((id) => ({ id, label: id }));

function Asked({ name, hint, children }: { name: string; hint?: string; children: ReactNode }) {
  return (
    <div>
      <p aria-hidden className="font-medium">
        {name} {hint && <span className="font-normal text-soft">{hint}</span>}
      </p>
      <div className="mt-1">{children}</div>
    </div>
  );
}

/** A question with a few answers. */
function Pills<Id extends string>({
  name,
  hint,
  options,
  chosen,
  onChoose,
}: {
  name: string;
  hint?: string;
  options: readonly { readonly id: Id; readonly label: string }[];
  chosen: Id | undefined;
  onChoose: (id: Id) => void;
}) {
  return (
    <Asked name={name} {...(hint === undefined ? {} : { hint })}>
      <Choice kind="pill" legend={name} options={options} chosen={chosen} onChoose={onChoose} />
    </Asked>
  );
}

export function LabelForm({ types, mark, answers, onAnswers }: LabelFormProps) {
  const [isMore, setMore] = useState(false);
  /** An answer, or that it is not known. */
  const answer = <K extends keyof LabelAnswers>(key: K, value: LabelAnswers[K] | undefined | ''): void => {
    const { [key]: _before, ...rest } = answers;
    onAnswers(value === undefined || value === '' ? rest : { ...rest, [key]: value });
  };
  const figure = (key: keyof LabelAnswers, label: string, unit: string) => (
    <NumberField
      label={label}
      unit={unit}
      value={answers[key] as number | undefined}
      onChange={(value) => answer(key, value)}
    />
  );
  const text = (key: 'packCode' | 'maker' | 'code' | 'caseCode', label: string) => (
    <TextBox label={label} value={answers[key] ?? ''} onChange={(value) => answer(key, value)} />
  );
  const made = readLabel(answers, mark, useLabelCheck(true));
  return (
    <section aria-label="Read off the label" className={card({ edge: 'asking', className: 'space-y-4' })}>
      <Pills name="Built as" options={BUILT} chosen={answers.built} onChoose={(id) => answer('built', id)} />
      <Pills
        name="Volts"
        options={VOLTS}
        chosen={answers.cells === undefined ? undefined : String(answers.cells)}
        onChoose={(id) => answer('cells', Number(id))}
      />
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-4">
        {figure('capacityAh', 'Capacity', 'Ah')}
        {figure('hourRate', 'At a rate of', 'h')}
        {figure('crankingA', 'Cranking', 'A')}
        {figure('reserveMin', 'Reserve', 'min')}
      </div>
      {answers.crankingA !== undefined && (
        <Pills
          name="Cranking by"
          hint="the letters beside it; EN where there are none"
          options={STANDARDS}
          chosen={answers.crankingStandard}
          onChoose={(id) => answer('crankingStandard', id)}
        />
      )}
      <Pills
        name="It comes"
        options={COMES}
        chosen={answers.delivery}
        onChoose={(id) => answer('delivery', id)}
      />
      {answers.delivery === 'own-pack' && (
        <div className="grid grid-cols-2 gap-3 sm:grid-cols-3">
          {figure('packMl', 'Pack holds', 'mL')}
          {figure('packDensity', 'Its density', 'kg/L')}
          {text('packCode', 'Code on the pack')}
        </div>
      )}
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-3">
        {figure('ceilingV', 'Charge at', 'V')}
        {figure('chargeCurrentA', 'Charge with', 'A')}
        <NumberField
          label="Weighs"
          unit="kg"
          value={answers.wetMassG === undefined ? undefined : answers.wetMassG / 1000}
          onChange={(kg) => answer('wetMassG', kg === undefined ? undefined : kg * 1000)}
        />
      </div>
      <button
        type="button"
        aria-expanded={isMore}
        onClick={() => setMore(!isMore)}
        className="min-h-12 font-medium text-soft underline decoration-cork underline-offset-4 hover:text-char"
      >
        {isMore ? 'Less' : 'More of the label: maker, code, what it is for, posts'}
      </button>
      {isMore && (
        <>
          <Pills
            name="Made for"
            options={MADE_FOR}
            chosen={answers.duty}
            onChoose={(id) => answer('duty', id)}
          />
          <div className="grid gap-3 sm:grid-cols-3">
            {text('maker', 'Maker')}
            {text('code', 'Type code')}
            {text('caseCode', 'Case or group')}
          </div>
          <Pills
            name="Positive post"
            hint="posts towards you"
            options={POSITIVE}
            chosen={answers.positivePost}
            onChoose={(id) => answer('positivePost', id)}
          />
          <div className="grid sm:grid-cols-2">
            <Tick
              label="Maintenance-free, ports under its label"
              isOn={answers.hasHiddenPorts ?? false}
              onChange={(isOn) => answer('hasHiddenPorts', isOn || undefined)}
            />
            <Tick
              label="A vent hose leads its gas away"
              isOn={answers.hasVentHose ?? false}
              onChange={(isOn) => answer('hasVentHose', isOn || undefined)}
            />
          </div>
          <Asked name="Like a type we know" hint="for tester and forecast, where the label says too little">
            <Combobox
              label="Like a type we know"
              className="w-full"
              value={answers.like?.id ?? ''}
              choices={typeChoices(types.filter(isTaken))}
              placeholder="None"
              empty="No type of the list is called so."
              onChoose={(id) =>
                answer(
                  'like',
                  types.filter(isTaken).find((type) => type.id === id),
                )
              }
            />
          </Asked>
        </>
      )}
      {'problem' in made ? (
        <Notice tone={made.isWanted ? 'caution' : 'stop'}>
          {made.isWanted ? `Still wanted: ${made.problem}` : made.problem}
        </Notice>
      ) : (
        <div role="status">
          <p className="text-lg font-semibold">{shortName(made.type)}</p>
          <ul className="mt-1 list-disc space-y-1 pl-5 text-sm text-soft">
            {made.follows.map((sentence) => (
              <li key={sentence}>{sentence}</li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}
