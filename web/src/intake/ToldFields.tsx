/** What was said of a battery that is brought back, and whose it is. */
import { OWNERS, type Whose } from '@cork-ember/core/advice/worth.ts';
import { COMPLAINT_WORDS, COMPLAINTS, type Complaint } from '@cork-ember/core/candidate/causes.ts';
import type { Told } from '@cork-ember/core/runsheet/entries/events.ts';
import { Combobox } from '../ui/Combobox.tsx';
import { Field } from '../ui/Field.tsx';
import { usualOwner } from './usualOwner.ts';
import { box } from '../ui/box.ts';

type Problem = { readonly message?: string | undefined } | undefined;

interface ToldProps {
  readonly told: Partial<Told> | undefined;
  readonly owner: string | undefined;
  readonly errors: Readonly<Partial<Record<keyof Told, Problem>>> | undefined;
  readonly onChange: (told: Told) => void;
}

export function ToldFields({ told, owner, errors, onChange }: ToldProps) {
  const { complaint = 'unknown', flatMonths, whose } = told ?? {};
  const said: Told = {
    complaint,
    ...(flatMonths === undefined ? {} : { flatMonths }),
    ...(whose === undefined ? {} : { whose }),
  };
  const stoodFlat = (text: string): void => {
    const { flatMonths: _before, ...rest } = said;
    onChange(text === '' ? rest : { ...rest, flatMonths: Number(text) });
  };
  return (
    <>
      <div className="grid grid-cols-2 gap-4">
        <Field id="complaint" label="What was said of it" error={errors?.complaint?.message}>
          <Combobox
            id="complaint"
            className="mt-1 w-full"
            value={complaint}
            choices={COMPLAINTS.map((id) => ({ value: id, label: COMPLAINT_WORDS[id] }))}
            onChoose={(id) => onChange({ ...said, complaint: id as Complaint })}
          />
        </Field>
        <Field
          id="flat"
          label="Stood flat, months"
          hint="Nothing where nobody knows"
          error={errors?.flatMonths?.message}
        >
          <input
            id="flat"
            inputMode="decimal"
            autoComplete="off"
            className={box({ className: 'reading' })}
            onChange={({ target }) => stoodFlat(target.value.trim().replace(',', '.'))}
          />
        </Field>
      </div>
      <Field
        id="whose"
        label="Whose it is"
        hint="What it is worth to bring it back depends on it."
        error={errors?.whose?.message}
      >
        <Combobox
          id="whose"
          className="mt-1 w-full"
          value={whose ?? usualOwner(owner)}
          choices={Object.entries(OWNERS).map(([value, label]) => ({ value, label }))}
          onChoose={(id) => onChange({ ...said, whose: id as Whose })}
        />
      </Field>
    </>
  );
}
