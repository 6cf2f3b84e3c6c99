/** What an automatic charger makes of the battery: a reading like any other, once it is known where it starts. */
import { onSix } from '@cork-ember/core/battery/types.ts';
import type { Reading } from '@cork-ember/core/observation/readings.ts';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { useShop } from '../api/queries.ts';
import type { AskedReading } from '../readings/ReadingFields.tsx';
import { ReadingForm } from '../readings/ReadingForm.tsx';
import { useReadings } from '../readings/useReadings.ts';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import { TAKE_IN } from './LookForm.tsx';
import { useTakeIn } from './useTakeIn.ts';
import { FormHead } from './FormHead.tsx';

/** Where most automatic chargers begin to see a battery, V on six cells (handbook 3.4). */
const STARTS_V = 8;

type View = Extract<Reading, { kind: 'charger' }>['view'];

const VIEWS: readonly { readonly id: View; readonly label: string }[] = [
  { id: 'refuses', label: 'Does not start on it' },
  { id: 'stuck', label: 'Stays in its first stage, or trips' },
  { id: 'finishes', label: 'Comes to its end' },
];

export function ChargerForm({ job, onTaken }: { job: Job; onTaken: () => void }) {
  const { type } = job.state.opened;
  const { data: shop } = useShop();
  const take = useTakeIn(job, onTaken);
  const scale = onSix(1, type);
  const fields: readonly AskedReading[] = [
    {
      id: 'startV',
      isOptional: false,
      spec: {
        label: 'It starts on a battery from',
        unit: 'V',
        decimals: 1,
        possible: { min: 0, max: 14 * scale },
        plausible: { min: 0.5 * scale, max: 11 * scale },
      },
    },
  ];
  const readings = useReadings(`${job.state.job} evidence charger`, fields, { startV: STARTS_V * scale });
  const view = VIEWS.find(({ id }) => id === readings.choice('view'))?.id;
  const known = (shop?.chargers ?? []).filter(({ startV }) => startV > 0);
  return (
    <ReadingForm
      readings={readings}
      fields={fields}
      job={job.state.job}
      type={type}
      answer={TAKE_IN}
      onTake={({ values: { startV = STARTS_V * scale } }) =>
        take.all(view === undefined ? [] : [{ kind: 'charger', view, startV }])
      }
    >
      <FormHead
        cautions={['clipsFirst', 'chargerOffFirst', 'gas']}
        how="What an automatic charger makes of it, and where that one starts."
        problem={take.problem}
      />
      <div className="px-5 pt-3">
        <Choice
          legend="The charger’s view"
          options={VIEWS}
          chosen={view}
          onChoose={(id) => readings.choose('view', id)}
        />
      </div>
      {known.length > 0 && (
        <div
          role="group"
          aria-label="Start voltages of the shop’s chargers"
          className="flex flex-wrap gap-2 px-5 pt-3"
        >
          {known.map(({ id, name, startV }) => (
            <Button key={id} onClick={() => readings.put('startV', startV * scale, name)}>
              {name}, {(startV * scale).toFixed(1)} V
            </Button>
          ))}
        </div>
      )}
    </ReadingForm>
  );
}
