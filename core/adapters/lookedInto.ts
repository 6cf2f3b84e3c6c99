/** What a run sheet read of the cells one by one, along them, and under a load before anything was done to the battery. */
import { STEP } from '../runsheet/definition/stepIds.ts';
import { ofCells } from '../runsheet/definition/densities.ts';
import type { StepValues } from '../units/values.ts';
import { isLoadColour, loadTestFor, voltsOfColour } from '../battery/loadTest.ts';
import { BANDS, isBand, type Band } from '../runsheet/definition/fields.ts';
import { latest, type JobState } from '../runsheet/state/jobState.ts';
import { numberOf } from '../units/values.ts';
import type { Reading } from '../observation/readings.ts';

const USUAL_C = 21;

/** A reading at its moment; midway where its charger was on. */
export interface LookedInto {
  readonly at: number;
  readonly reading: Reading;
  readonly isMidway?: boolean;
}

const SEEN = { bubbling: 'lively', silent: 'none' } as const;

/** What the run sheet read cell by cell, along the cells, and under a load before anything was done to it. */
export function lookedIntoOf(state: JobState): LookedInto[] {
  const { type, rules } = state.opened;
  return state.steps.flatMap(({ stepId, round, doneAt, values }, index): LookedInto[] => {
    if (doneAt === undefined || !values) return [];
    switch (stepId) {
      case STEP.dipsBefore: {
        const volts = Array.from({ length: type.cells + 1 }, (_, at) => Number(values[`dip${at + 1}`]));
        return [{ at: doneAt, reading: { kind: 'dips', volts } }];
      }
      case STEP.loadBefore: {
        const tempC = numberOf(latest(state, STEP.firstOcv)?.values?.['tempC']) ?? USUAL_C;
        const test = loadTestFor(type, rules.loadTest, tempC);
        const { currentA: amps, seconds } = test;
        const shown = isLoadColour(values['scale'])
          ? voltsOfColour(values['scale'], test, type)
          : { volts: Number(values['loadV']) };
        return [{ at: doneAt, reading: { kind: 'load', amps, seconds, ...shown } }];
      }
      case STEP.mixDensity:
        return densitiesIn(values, type.cells).map((reading) => ({ at: doneAt, reading }));
      case STEP.biteCells:
      case STEP.biteCellsTwo:
      case STEP.biteCellsThree: {
        // As they were in the last minute of the bite before, its charger still on.
        const bite = state.steps.slice(0, index).findLast((one) => one.charge && one.round === round);
        const at = bite?.charge?.runs.at(-1)?.to ?? doneAt;
        return ofCells(values, 'cell').flatMap((seen, cell): LookedInto[] => {
          const bubbles = SEEN[seen as keyof typeof SEEN] as 'lively' | 'none' | undefined;
          return bubbles === undefined
            ? []
            : [{ at, isMidway: true, reading: { kind: 'bubbles', cell: cell + 1, bubbles } }];
        });
      }
      default:
        return [];
    }
  });
}

/** A band is anywhere between its ends. */
export function bandReading(band: Band, cell: number): Reading {
  const { low, high } = BANDS[band];
  return { kind: 'density', cell, density: (low + high) / 2, within: (high - low) / 2 };
}

/** Densities as a step read them. */
export function densitiesIn(values: StepValues, cells: number): Reading[] {
  const acidC = numberOf(values['acidC']);
  return Array.from({ length: cells }, (_, index) => index + 1).flatMap((cell): Reading[] => {
    const band = values[`band${cell}`];
    if (isBand(band)) return [bandReading(band, cell)];
    const density = numberOf(values[`density${cell}`]);
    return density === undefined
      ? []
      : [{ kind: 'density', cell, density, ...(acidC === undefined ? {} : { tempC: acidC }) }];
  });
}
