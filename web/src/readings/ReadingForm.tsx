/**
 * One way to enter a reading: its fields and their keypad, Enter to the next empty one, the main answer always in sight, and
 * what is typed kept until it is recorded.
 */
import { Gauge } from 'lucide-react';
import type { FormEvent, ReactNode } from 'react';
import { flushSync } from 'react-dom';
import type { BatteryType } from '@cork-ember/core/battery/types.ts';
import { Actions } from '../steps/Actions.tsx';
import { Button } from '../ui/Button.tsx';
import { moveOnEnter } from './activeField.ts';
import { ReadingFields, usePull, type AskedReading } from './ReadingFields.tsx';
import type { Readings, TakenReadings } from './useReadings.ts';

interface FormProps {
  readonly readings: Readings;
  readonly fields: readonly AskedReading[];
  readonly job: string;
  readonly type?: Pick<BatteryType, 'cells' | 'positivePost'>;
  /** On the button that records. */
  readonly answer: string;
  readonly isQuiet?: boolean;
  /** @returns whether it was recorded: the form then stands as it began */
  readonly onTake: (taken: TakenReadings) => boolean | Promise<boolean>;
  /** Before the fields. */
  readonly children?: ReactNode;
  /** Beside the answer. */
  readonly others?: ReactNode;
}

const COUNTS = ['none', 'one', 'two', 'three', 'four'] as const;

export function ReadingForm(props: FormProps) {
  const { readings, fields, job, type, answer, isQuiet = false, onTake, children, others } = props;
  const { readable, pullAll } = usePull(fields, readings, job);
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = event.currentTarget;
    const taken = flushSync(() => readings.take(fields));
    if (!taken) form.querySelector<HTMLInputElement>('input[aria-invalid="true"]')?.focus();
    else if (await onTake(taken)) readings.clear();
  };
  return (
    <form onSubmit={(event) => void submit(event)} onKeyDown={moveOnEnter} noValidate>
      {children}
      {fields.length > 0 && (
        <ReadingFields fields={fields} readings={readings} job={job} {...(type ? { type } : {})} />
      )}
      <Actions>
        <Button type="submit" tone={isQuiet ? 'plain' : 'go'} className="min-h-16 flex-1 text-lg">
          {answer}
        </Button>
        {readable.length > 1 && (
          <Button className="min-h-16 max-sm:px-2" onClick={() => void pullAll()}>
            <Gauge aria-hidden className="size-5" />
            <span>
              <span className="max-sm:sr-only">Read </span>all {COUNTS[readable.length] ?? readable.length}
            </span>
          </Button>
        )}
        {others}
      </Actions>
    </form>
  );
}
