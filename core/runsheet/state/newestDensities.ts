/** The newest density of an opened battery's cells, whatever asked for it: steps, charges, or readings beside them. */
import { hydrometerTo25 } from '../../electrolyte/density.ts';
import { densitiesAt25 } from '../definition/densities.ts';
import type { CellDensities } from '../definition/step.ts';
import type { JobState } from './jobState.ts';

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
