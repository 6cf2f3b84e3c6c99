/** Densities of the cells of an opened battery: what was read at steps, on charge and beside them, corrected to 25 °C. */
import { hydrometerTo25 } from '../../electrolyte/density.ts';
import type { StepValues } from '../../units/values.ts';
import { MOST_CELLS } from './fields.ts';

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
