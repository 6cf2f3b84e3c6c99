/** Readings by instruments without figures, as the intervals they are: a load tester's colours, a hydrometer's bands or balls. */
import { useState, type FormEvent, type ReactNode } from 'react';
import {
  LOAD_COLOURS,
  loadTestFor,
  voltsOfColour,
  type LoadColour,
} from '@cork-ember/core/battery/loadTest.ts';
import { settingOf } from '@cork-ember/core/adapters/fromJob.ts';
import { bandReading } from '@cork-ember/core/adapters/lookedInto.ts';
import type { HandInstruments } from '@cork-ember/core/observation/handInstruments.ts';
import { BANDS, type Band } from '@cork-ember/core/runsheet/definition/fields.ts';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { useShop } from '../api/queries.ts';
import { LoadGuide } from '../steps/LoadGuide.tsx';
import { Choice } from '../ui/Choice.tsx';
import { LookForm, TakeIn, type Look } from './LookForm.tsx';
import { useTakeIn } from './useTakeIn.ts';
import { FormHead } from './FormHead.tsx';

const BY_BANDS: Look = {
  id: 'bands',
  name: 'Band',
  cautions: ['acid', 'gasInside'],
  how: 'The band the float stands in, cell by cell; balls: none red, half white, all green. Taken as the interval it is.',
  options: Object.entries(BANDS).map(([id, { label }]) => ({ id, label })),
  reading: (band, cell) => bandReading(band as Band, cell),
};

const COLOURS = Object.entries(LOAD_COLOURS).map(([id, label]) => ({ id: id as LoadColour, label }));

interface FormProps {
  readonly job: Job;
  readonly onTaken: () => void;
}

function ColourForm({ job, onTaken }: FormProps) {
  const { type, rules } = job.state.opened;
  const test = loadTestFor(type, rules.loadTest, settingOf(job.state).tempC);
  const take = useTakeIn(job, onTaken);
  const [colour, setColour] = useState<LoadColour>();
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    if (colour === undefined) return;
    const { currentA: amps, seconds } = test;
    if (await take.all([{ kind: 'load', amps, seconds, ...voltsOfColour(colour, test, type) }]))
      setColour(undefined);
  };
  return (
    <form onSubmit={(event) => void submit(event)} noValidate className="mt-3">
      <FormHead
        cautions={['sparkAtTest', 'gasInside']}
        how="Where the needle stands, or which lamp is lit, at the end of the load."
        problem={take.problem}
      />
      <LoadGuide
        seconds={test.seconds}
        isWatched
        limit={`${test.currentA.toFixed(0)} A; the green begins at about ${test.floorV.toFixed(2)} V: ${test.basis}. A colour is taken as the interval it is.`}
      />
      <div className="px-5 pt-3">
        <Choice
          kind="pill"
          legend="Colour at the end"
          options={COLOURS}
          chosen={colour}
          onChoose={setColour}
        />
      </div>
      <TakeIn />
    </form>
  );
}

interface Other {
  readonly legend: string;
  readonly figures: string;
  readonly other: string;
  readonly isUsual: (held: HandInstruments) => boolean;
  readonly form: (props: FormProps) => ReactNode;
}

/** Kinds of readings that an instrument without figures gives too. */
const OTHERS: Readonly<Record<string, Other | undefined>> = {
  load: {
    legend: 'Load tester with',
    figures: 'Volts',
    other: 'Colours only',
    isUsual: ({ loadTester }) => loadTester === 'colours',
    form: (props) => <ColourForm {...props} />,
  },
  density: {
    legend: 'Hydrometer with',
    figures: 'A scale',
    other: 'Bands or balls',
    isUsual: ({ hydrometer }) => hydrometer === 'bands',
    form: (props) => <LookForm {...props} look={BY_BANDS} />,
  },
};

/** The form of a reading by the instrument the shop has; the other kind is a press away. */
export function ByInstrument({
  kind,
  children,
  ...props
}: FormProps & { readonly kind: string; readonly children: ReactNode }) {
  const { data: shop } = useShop();
  const other = OTHERS[kind];
  const [isOther, setOther] = useState(other?.isUsual(shop?.handInstruments ?? {}) ?? false);
  if (!other) return children;
  return (
    <>
      <div className="mt-3 px-5">
        <p aria-hidden className="mb-1 font-medium">
          {other.legend}
        </p>
        <Choice
          kind="pill"
          legend={other.legend}
          options={[
            { id: 'figures', label: other.figures },
            { id: 'other', label: other.other },
          ]}
          chosen={isOther ? 'other' : 'figures'}
          onChoose={(id) => setOther(id === 'other')}
        />
      </div>
      {isOther ? other.form(props) : children}
    </>
  );
}
