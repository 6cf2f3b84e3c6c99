/** Puts a recorded reading right: it keeps its place and time, the old value stays in the log. */
import { useState, type ReactNode } from 'react';
import type { HistoryEntry } from '@cork-ember/core/runsheet/log/history.ts';
import type { StepPayloads } from '@cork-ember/core/runsheet/entries/events.ts';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { chargeSpecs } from '@cork-ember/core/runsheet/definition/fields.ts';
import { contextOf } from '@cork-ember/core/runsheet/state/context.ts';
import { definitionOf } from '@cork-ember/core/runsheet/state/sheet.ts';
import type { JobState, StepState } from '@cork-ember/core/runsheet/state/jobState.ts';
import type { MeasureStep } from '@cork-ember/core/runsheet/definition/step.ts';
import { lastNumbers } from '@cork-ember/core/runsheet/state/lastRead.ts';
import { lastReadingOf } from '@cork-ember/core/runsheet/state/looks.ts';
import { sentenceOf } from '../api/client.ts';
import { useRecord } from '../api/record.ts';
import { ReadingForm } from '../readings/ReadingForm.tsx';
import { useReadings } from '../readings/useReadings.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Notice } from '../ui/Notice.tsx';
import { PapersOut } from './Amend.tsx';
import { MeasureChoices, useMeasureForm } from '../steps/MeasureStepBody.tsx';
import { lookFields, lookValues, typedLook } from '../steps/ChargeLook.tsx';
import { TextBox } from '../ui/TextBox.tsx';

type Payload = StepPayloads[keyof StepPayloads];

/** Shorter is no reason, less so once papers are out. */
const LEAST_WHY = { open: 3, out: 8 } as const;

interface FormProps {
  readonly name: string;
  readonly state: JobState;
  readonly step: StepState;
  /** @returns whether it was recorded */
  readonly onTake: (payload: Payload) => Promise<boolean>;
  /** What leaves it as it was. */
  readonly leave: ReactNode;
}

const answerOf = ({ outcome }: JobState): string =>
  `Save the ${outcome === undefined ? 'correction' : 'amendment'}`;

function MeasuredForm({
  name,
  state,
  step,
  onTake,
  leave,
  measure,
  values,
}: FormProps & { measure: MeasureStep; values: StepPayloads['measured']['values'] }) {
  const { type } = state.opened;
  const form = useMeasureForm({
    name,
    measure,
    context: contextOf(state, step.round),
    last: lastNumbers(state),
    initial: values,
  });
  return (
    <ReadingForm
      readings={form.readings}
      fields={form.fields}
      job={state.job}
      type={type}
      answer={answerOf(state)}
      onTake={(taken) => onTake({ step: step.key, ...form.valuesOf(taken) })}
      others={leave}
    >
      <MeasureChoices form={form} type={type} />
    </ReadingForm>
  );
}

function LookForm({
  name,
  state,
  step,
  onTake,
  leave,
  values,
}: FormProps & { values: StepPayloads['chargeRead']['values'] }) {
  const { type } = state.opened;
  const specs = chargeSpecs(type, step.charge?.currentA ?? 1);
  const fields = lookFields(type, specs, {
    asksCells: values.cellDensities !== undefined,
    last: lastReadingOf(state, step.key),
  });
  const readings = useReadings(name, fields, typedLook(values), true);
  return (
    <ReadingForm
      readings={readings}
      fields={fields}
      job={state.job}
      type={type}
      answer={answerOf(state)}
      onTake={({ values: taken, source }) =>
        onTake({ step: step.key, values: lookValues(taken, type), source })
      }
      others={leave}
    />
  );
}

export function Correction({
  job,
  entry: { event, place, words },
  onClose,
}: {
  job: Job;
  /** As it stands now: a second correction begins where the first ended. */
  entry: HistoryEntry;
  onClose: () => void;
}) {
  const record = useRecord(job);
  const [why, setWhy] = useState('');
  const [problem, setProblem] = useState('');
  const { state } = job;
  const isOut = state.outcome !== undefined;
  const key = 'step' in event.payload ? event.payload.step : '';
  const step = state.steps.find((candidate) => candidate.key === key);
  const take = async (payload: Payload): Promise<boolean> => {
    const reason = why.trim();
    if (reason.length < LEAST_WHY[isOut ? 'out' : 'open']) {
      setProblem('Why: say it in a few words; it stands beside what it was.');
      return false;
    }
    const change = { replaces: event.key, payload };
    try {
      await record(
        isOut
          ? { kind: 'amended', payload: { changes: [change], why: reason } }
          : { kind: 'corrected', payload: { ...change, why: reason } },
      );
      onClose();
      return true;
    } catch (error) {
      setProblem(sentenceOf(error));
      return false;
    }
  };
  if (!step) return null;
  const definition = definitionOf(state, step);
  const leave = (
    <Button className="min-h-16" onClick={onClose}>
      Leave it
    </Button>
  );
  const form = { name: `${state.job} corrects ${event.key}`, state, step, onTake: take, leave };
  return (
    <Dialog
      onClose={onClose}
      title={`${isOut ? 'Amend' : 'Correct'} “${definition.title}”`}
      said={`${place} now says: ${words}`}
      className="w-[min(42rem,94vw)]"
    >
      <div className="mt-3">
        <TextBox label="Why" value={why} onChange={setWhy} most={200} />
      </div>
      {/* What follows brings the margins of a step's card. */}
      <div className="-mx-5 -mb-5 mt-3">
        {isOut && <PapersOut />}
        {problem !== '' && <Notice tone="stop">{problem}</Notice>}
        {event.kind === 'measured' && definition.kind === 'measure' && (
          <MeasuredForm {...form} measure={definition} values={event.payload.values} />
        )}
        {event.kind === 'chargeRead' && <LookForm {...form} values={event.payload.values} />}
      </div>
    </Dialog>
  );
}
