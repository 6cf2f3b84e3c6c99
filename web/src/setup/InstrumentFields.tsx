/** What the shop measures with, a choice for each instrument; none chosen is asked at every step. */
import {
  HAND_INSTRUMENT_IDS,
  HAND_INSTRUMENTS,
  type HandInstruments,
} from '@cork-ember/core/observation/handInstruments.ts';
import { Choice } from '../ui/Choice.tsx';

interface InstrumentFieldsProps {
  readonly held: HandInstruments;
  readonly onChange: (next: HandInstruments) => void;
}

export function InstrumentFields({ held, onChange }: InstrumentFieldsProps) {
  return (
    <div className="space-y-3">
      {HAND_INSTRUMENT_IDS.map((id) => {
        const { title, kinds } = HAND_INSTRUMENTS[id];
        return (
          <div key={id}>
            <p aria-hidden className="font-medium">
              {title}
            </p>
            <div className="mt-1">
              <Choice
                kind="pill"
                legend={title}
                options={Object.entries(kinds).map(([kind, label]) => ({ id: kind, label }))}
                chosen={held[id]}
                onChoose={(kind) => onChange({ ...held, [id]: kind })}
              />
            </div>
          </div>
        );
      })}
    </div>
  );
}
