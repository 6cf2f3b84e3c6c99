/** What is read of a battery off the bench. */
import { onSix } from '@cork-ember/core/battery/types.ts';
import type { ReadPayload } from '@cork-ember/core/shelf/entries.ts';
import type { AskedReading } from '../readings/ReadingFields.tsx';
import type { TakenReadings } from '../readings/useReadings.ts';

/** On six cells, V: outside of these one looks twice. */
const PLAUSIBLE_V = { min: 11.5, max: 13.2 } as const;
const POSSIBLE_V = { min: 0, max: 16 } as const;

const round = (volts: number): number => Math.round(volts * 100) / 100;

/** @param expected what it is foretold to rest at, V */
export function readFields(cells: number, expected?: number): readonly AskedReading[] {
  const scale = (range: { readonly min: number; readonly max: number }) => ({
    min: round(onSix(range.min, { cells })),
    max: round(onSix(range.max, { cells })),
  });
  return [
    {
      id: 'volts',
      isOptional: false,
      ...(expected === undefined ? {} : { last: round(expected) }),
      spec: {
        label: 'Rested voltage',
        unit: 'V',
        decimals: 2,
        possible: scale(POSSIBLE_V),
        plausible: scale(PLAUSIBLE_V),
      },
    },
    {
      id: 'tempC',
      isOptional: true,
      spec: {
        label: 'Temperature',
        unit: '°C',
        decimals: 0,
        possible: { min: -40, max: 60 },
        plausible: { min: -15, max: 40 },
      },
    },
  ];
}

/** What was typed, as it is recorded. */
export function readOf({ values }: TakenReadings): ReadPayload {
  const { volts = 0, tempC } = values;
  return { volts, ...(tempC === undefined ? {} : { tempC }), source: 'keypad' };
}
