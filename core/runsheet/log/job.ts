/** Entries about the job as a whole, wherever it stands: words, pictures, evidence, place, promise, its end. */
import { RunSheetError } from '../entries/errors.ts';
import type { EventPayloads } from '../entries/events.ts';
import { standsText } from '../entries/place.ts';
import type { JobState } from '../state/jobState.ts';
import { isOn } from '../state/looks.ts';
import { procedureOf } from '../state/sheet.ts';
import { endJob } from './moves.ts';

/** Who made an entry, and when. */
export interface Made {
  readonly at: number;
  readonly by: string;
}

function assertOpen({ outcome }: JobState): void {
  if (outcome) throw new RunSheetError('closed', 'This job has already ended.');
}

/** @throws RunSheetError while current flows */
function assertOff(state: JobState, what: string): void {
  const charge = state.steps[state.cursor]?.charge;
  if (charge && isOn(charge))
    throw new RunSheetError('held', `The charger is on: switch it off before the ${what}.`);
}

export function noted(state: JobState, { text }: EventPayloads['noted'], made: Made): JobState {
  return { ...state, notes: [...state.notes, { ...made, text }] };
}

export function photographed(
  state: JobState,
  { photo, step, caption }: EventPayloads['photographed'],
  made: Made,
): JobState {
  return { ...state, photos: [...state.photos, { ...made, text: caption, photo, step }] };
}

/** Only a recovery asks what is the matter, and only of cells the battery has. */
export function evidenced(state: JobState, { reading }: EventPayloads['evidenced'], made: Made): JobState {
  assertOpen(state);
  if (!procedureOf(state).routes)
    throw new RunSheetError('bad-entry', 'Only a battery that is brought back is asked what is the matter.');
  const { cells } = state.opened.type;
  if ('cell' in reading && reading.cell > cells)
    throw new RunSheetError(
      'bad-entry',
      `This battery has cells 1 to ${cells}; there is no cell ${reading.cell}.`,
    );
  if (reading.kind === 'dips' && reading.volts.length !== cells + 1)
    throw new RunSheetError(
      'bad-entry',
      `Dip probes give one reading more than cells: ${cells + 1} are needed, ${reading.volts.length} came.`,
    );
  return { ...state, evidence: [...(state.evidence ?? []), { ...made, reading }] };
}

export function placed(state: JobState, { bay }: EventPayloads['placed']): JobState {
  assertOpen(state);
  assertOff(state, 'battery is moved');
  if (bay === state.bay) throw new RunSheetError('bad-entry', `It stands ${standsText(bay)} already.`);
  return { ...state, bay };
}

/** A promise and an owner are agreed, not measured: they may be agreed anew, with a reason, while the job is open. */
export function arranged(
  state: JobState,
  { promisedAt, owner }: EventPayloads['arranged'],
  { at }: Made,
): JobState {
  assertOpen(state);
  if (promisedAt === undefined && owner === undefined)
    throw new RunSheetError('bad-entry', 'Nothing is changed: give another promise or another owner.');
  if (promisedAt !== undefined && promisedAt <= at)
    throw new RunSheetError('bad-entry', 'Promised: the time must lie ahead.');
  const { opened } = state;
  const battery = { ...opened.battery, owner: owner ?? opened.battery.owner };
  return { ...state, opened: { ...opened, battery, promisedAt: promisedAt ?? opened.promisedAt } };
}

/** Its ending is gone from the log before this: what had ended in another way still has. */
export function reopened(state: JobState, { bay }: EventPayloads['reopened']): JobState {
  assertOpen(state);
  return { ...state, bay };
}

export function withdrawn(state: JobState, { reason }: EventPayloads['withdrawn'], { at }: Made): JobState {
  assertOpen(state);
  assertOff(state, 'job is withdrawn');
  return endJob(state, at, 'withdrawn', reason);
}
