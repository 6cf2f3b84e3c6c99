/** What is seen rather than measured: levels and bubbles, cell by cell on the drawing of the battery. */
import type { FormEvent } from 'react';
import type { Reading } from '@cork-ember/core/observation/readings.ts';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { useDraft } from '../store/drafts.ts';
import { Actions } from '../steps/Actions.tsx';
import { BatteryTop } from '../ui/BatteryTop.tsx';
import type { CautionId } from '@cork-ember/core/rules/cautions.ts';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import { useTakeIn } from './useTakeIn.ts';
import { FormHead } from './FormHead.tsx';

interface Option {
  readonly id: string;
  readonly label: string;
}

export interface Look {
  readonly id: string;
  readonly name: string;
  readonly how: string;
  readonly cautions: readonly CautionId[];
  readonly options: readonly Option[];
  readonly reading: (option: string, cell: number) => Reading;
}

/** Of flooded batteries alone: the caps come off. */
export const LOOKS: readonly Look[] = [
  {
    id: 'level',
    name: 'Levels',
    cautions: ['acid', 'gasInside'],
    how: 'A lamp into each cell. Plates bare: dried out; one low: that cell.',
    options: [
      { id: 'at-line', label: 'At line' },
      { id: 'low', label: 'Low' },
      { id: 'plates-bare', label: 'Bare' },
    ],
    reading: (level, cell) => ({ kind: 'level', cell, level: level as 'at-line' | 'low' | 'plates-bare' }),
  },
  {
    id: 'bubbles',
    name: 'Bubbles',
    cautions: ['acid', 'gas', 'gasInside'],
    how: 'On charge, caps off, face away. The silent cell is shorted, or the last to wake.',
    options: [
      { id: 'lively', label: 'Lively' },
      { id: 'few', label: 'Few' },
      { id: 'none', label: 'Silent' },
    ],
    reading: (bubbles, cell) => ({ kind: 'bubbles', cell, bubbles: bubbles as 'lively' | 'few' | 'none' }),
  },
];

/** What every form of evidence is answered with. */
export const TAKE_IN = 'Take it in';

export function TakeIn() {
  return (
    <Actions>
      <Button type="submit" tone="go" className="min-h-16 flex-1 text-lg">
        {TAKE_IN}
      </Button>
    </Actions>
  );
}

interface LookFormProps {
  readonly job: Job;
  readonly look: Look;
  readonly onTaken: () => void;
}

export function LookForm({ job, look, onTaken }: LookFormProps) {
  const { type } = job.state.opened;
  const take = useTakeIn(job, onTaken);
  const draft = useDraft(`${job.state.job} evidence ${look.id}`);
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const readings = Object.entries(draft.fields).map(([cell, { text }]) => look.reading(text, Number(cell)));
    if (await take.all(readings)) draft.clear();
  };
  return (
    <form onSubmit={(event) => void submit(event)} noValidate className="mt-3">
      <FormHead cautions={look.cautions} how={look.how} problem={take.problem} />
      <div className="px-5 pt-3">
        <BatteryTop
          type={type}
          stacks
          cell={(cell) => (
            <Choice
              legend={`${look.name}, cell ${cell}`}
              options={look.options}
              chosen={draft.fields[cell]?.text}
              onChoose={(text) => draft.change({ [cell]: { text } })}
              kind="cell"
            />
          )}
        />
      </div>
      <TakeIn />
    </form>
  );
}
