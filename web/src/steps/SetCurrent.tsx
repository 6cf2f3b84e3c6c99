/** Another current for a charge somebody stands by: a press each for the usual steps, a field for any other. */
import { inSentence } from '@cork-ember/core/units/inSentence.ts';
import { useId, type FormEvent } from 'react';
import type { Treatment } from '@cork-ember/core/runsheet/definition/step.ts';
import { ReadingBox } from '../readings/ReadingBox.tsx';
import { useReadings, type ReadingField, type Readings } from '../readings/useReadings.ts';
import { Button } from '../ui/Button.tsx';
import type { StepActions } from './StepCard.tsx';

/** From what it begins with to the most, in three steps. */
const stepsOf = ({ setA, mostA }: Treatment): readonly number[] =>
  [...new Set([setA, (setA + mostA) / 2, mostA].map((amps) => Number(amps.toFixed(2))))].sort(
    (a, b) => a - b,
  );

/** A figure of one's own, and the press that puts it in force. */
function Other({ field, readings }: { field: ReadingField; readings: Readings }) {
  const typed = readings.typed(field.id);
  const { label, unit } = field.spec;
  const says = useId();
  return (
    <div>
      <div className="flex items-end gap-2">
        <label className="font-medium">
          {label}, {unit}
          <ReadingBox
            value={typed.text}
            label={label}
            unit={unit}
            aria-invalid={typed.isProblem === true}
            aria-describedby={says}
            onType={(text) => readings.type(field.id, text)}
            className="mt-1 block min-h-12 max-w-28 rounded-lg border-2 border-cork px-3 aria-invalid:border-clay"
          />
        </label>
        <Button type="submit" className="min-h-12" aria-label={`Set it so: ${inSentence(label)}`}>
          Set it so
        </Button>
      </div>
      <p id={says} className={typed.isProblem ? 'mt-1 text-clay' : 'sr-only'}>
        {typed.sentence ?? ''}
      </p>
    </div>
  );
}

export function SetCurrent({
  job,
  step,
  cells,
  currentA,
  treatment,
  actions,
}: {
  job: string;
  step: string;
  cells: number;
  currentA: number;
  treatment: Treatment;
  actions: StepActions;
}) {
  const field: ReadingField = {
    id: 'setA',
    isOptional: false,
    spec: {
      label: 'Another current',
      unit: 'A',
      decimals: 2,
      possible: { min: Number((treatment.setA / 10).toFixed(2)), max: treatment.mostA },
      plausible: { min: Number((treatment.setA / 10).toFixed(2)), max: treatment.mostA },
    },
  };
  const leastV = Number((2 * cells).toFixed(1));
  const voltage: ReadingField = {
    id: 'setV',
    isOptional: false,
    spec: {
      label: 'Another voltage',
      unit: 'V',
      decimals: 1,
      possible: { min: leastV, max: treatment.ceilingV },
      plausible: { min: leastV, max: treatment.ceilingV },
    },
  };
  const readings = useReadings(`${job} ${step} set`, [field]);
  const volts = useReadings(`${job} ${step} set volts`, [voltage]);
  const set = (amps: number): void =>
    void actions.record({ kind: 'chargeSet', payload: { step, currentA: amps } });
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const amps = readings.take()?.values[field.id];
    if (amps === undefined) return;
    const isSet = await actions.record({ kind: 'chargeSet', payload: { step, currentA: amps } });
    if (isSet) readings.clear();
  };
  const submitVolts = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const voltageV = volts.take()?.values[voltage.id];
    if (voltageV === undefined) return;
    const isSet = await actions.record({ kind: 'chargeSet', payload: { step, voltageV } });
    if (isSet) volts.clear();
  };
  return (
    <section aria-label="Set current" className="border-t border-line px-5 py-3">
      <h3 className="font-semibold">
        Set to <span className="reading">{currentA.toFixed(2)} A</span>; on the charger first, then here
      </h3>
      <form
        onSubmit={(event) => void submit(event)}
        noValidate
        className="mt-2 flex flex-wrap items-end gap-3"
      >
        {stepsOf(treatment)
          .filter((amps) => Math.abs(amps - currentA) > 0.005)
          .map((amps) => (
            <Button key={amps} className="min-h-13" onClick={() => set(amps)}>
              {amps > currentA ? 'Raise' : 'Lower'} to <span className="reading">{amps.toFixed(2)} A</span>
            </Button>
          ))}
        <Other field={field} readings={readings} />
      </form>
      <form onSubmit={(event) => void submitVolts(event)} noValidate className="mt-2">
        <Other field={voltage} readings={volts} />
      </form>
    </section>
  );
}
