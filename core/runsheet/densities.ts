/** Densities of the cells of an opened battery: what was read at steps, on charge and beside them, corrected to 25 °C. */
import { hydrometerTo25 } from '../electrolyte/density.ts';
import type { StepValues } from './events.ts';
import { MOST_CELLS } from './fields.ts';
import type { JobState } from './state.ts';
import type { CellDensities } from './step.ts';

/** The densities of a step, corrected to 25 °C; undefined where a cell was not read. */
export function densitiesAt25(values: StepValues, cells: number): (number | undefined)[] {
  const acidC = values['acidC'];
  return Array.from({ length: cells }, (_, index) => {
    const read = values[`density${index + 1}`];
    return typeof read === 'number' && typeof acidC === 'number' ? hydrometerTo25(read, acidC) : undefined;
  });
}

/** Between cells, g/cm³: worth an equalise, and a bad cell once charged (handbook 3.2). */
export const SPREAD_EQUALISE = 0.03;
export const SPREAD_BAD = 0.05;

/** From the lightest to the heaviest cell, g/cm³; undefined where fewer than two were read. */
export function spreadOf(densities: readonly (number | undefined)[]): number | undefined {
  const read = densities.filter((one) => one !== undefined);
  return read.length < 2 ? undefined : Math.max(...read) - Math.min(...read);
}

/** Whether every cell reads alike, reading after reading, within so much; a cell never read speaks against nothing. */
export function areAlike(readings: readonly (readonly (number | undefined)[])[], within: number): boolean {
  const cells = Math.max(0, ...readings.map(({ length }) => length));
  return Array.from({ length: cells }, (_, cell) => readings.map((of) => of[cell])).every(
    (ofCell) => (spreadOf(ofCell) ?? 0) <= within + 1e-9,
  );
}

/** What a step says of each cell. */
export const ofCells = (values: StepValues, id: string): readonly (StepValues[string] | undefined)[] =>
  Array.from({ length: MOST_CELLS }, (_, index) => values[`${id}${index + 1}`]);

interface Read extends CellDensities {
  readonly at: number;
}

const REFERENCE_C = 25;

/** Densities taken as evidence, cell by cell: those after the first charge, or before it all of them. */
function besideSteps(state: JobState, chargedFrom: number): Read[] {
  const read = (state.evidence ?? []).flatMap(({ at, reading }) =>
    reading.kind === 'density' ? [{ at, reading }] : [],
  );
  const after = read.filter(({ at }) => at >= chargedFrom);
  const counted = after.length > 0 ? after : read;
  if (counted.length === 0) return [];
  const at25 = Array.from({ length: state.opened.type.cells }, (_, index) => {
    const last = counted.findLast(({ reading }) => reading.cell === index + 1)?.reading;
    return last && hydrometerTo25(last.density, last.tempC ?? REFERENCE_C);
  });
  return [{ at: counted.at(-1)?.at ?? 0, at25, isCharged: after.length > 0 }];
}

/** The newest density of the cells, whatever asked for it; undefined before the first. */
export function newestDensities(state: JobState, round: number): CellDensities | undefined {
  const { cells } = state.opened.type;
  const chargedFrom = Math.min(...state.steps.map(({ charge, doneAt }) => (charge && doneAt) ?? Infinity));
  const atSteps = state.steps.flatMap(({ values, doneAt, ...step }): Read[] => {
    if (!values || doneAt === undefined || step.round > round) return [];
    const at25 = densitiesAt25(values, cells);
    return at25.some((one) => one !== undefined)
      ? [{ at: doneAt, at25, isCharged: doneAt >= chargedFrom }]
      : [];
  });
  const onCharge: Read[] = [];
  for (let link = state.readings; link; link = link.before) {
    const { at, cellDensities } = link.reading;
    if (cellDensities) onCharge.push({ at, at25: cellDensities, isCharged: true });
  }
  return [...atSteps, ...onCharge, ...besideSteps(state, chargedFrom)].reduce<Read | undefined>(
    (newest, one) => (newest === undefined || one.at >= newest.at ? one : newest),
    undefined,
  );
}
