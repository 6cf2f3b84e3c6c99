/** A logger's file of a charge: its readings stand among those that were typed, and its stop rules are judged. */
import type { ChargeReading } from '../charge/proofOfFull.ts';
import type { Finding } from '../charge/watch.ts';
import { RunSheetError } from './errors.ts';
import { chargeSpecs } from './fields.ts';
import { possibleNumber, type EventOf } from './moves.ts';
import { judged, linked, runningCharge, watchAt } from './reduceCharge.ts';
import { readingsOf, type JobState, type ReadingChain } from './state.ts';

const MINUTE = 60_000;
/** A logger's clock and the shop's may part by this, min. */
const CLOCKS_PART_MIN = 5;

/** The readings of a charge and those of its log in order of time; where both stand, what was typed stays. */
function merged(looks: readonly ChargeReading[], logged: readonly ChargeReading[]): ChargeReading[] {
  const typed = new Set(looks.map(({ at }) => at));
  return [...looks, ...logged.filter(({ at }) => !typed.has(at))].sort((a, b) => a.at - b.at);
}

/** A logger's file of the charge at hand. */
export function chargeLogged(state: JobState, { at, payload }: EventOf<'chargeLogged'>): JobState {
  const { charge, step, definition } = runningCharge(state, payload.step, at);
  const specs = chargeSpecs(state.opened.type, charge.currentA);
  const start = charge.runs[0]?.from ?? at;
  const { readings: rows } = payload;
  const lastMin = rows.at(-1)?.afterMin ?? 0;
  const sinceMin = (at - start) / MINUTE;
  if (lastMin > sinceMin + CLOCKS_PART_MIN)
    throw new RunSheetError(
      'bad-entry',
      `The log lasts ${lastMin.toFixed(0)} min, this charge ${sinceMin.toFixed(0)} min so far: it is of another charge, or its time is in another unit.`,
    );
  const logged = rows.map(({ afterMin, voltageV, currentA, tempC }, index) => {
    if (afterMin < (rows[index - 1]?.afterMin ?? 0))
      throw new RunSheetError('bad-entry', `Row ${index + 1} of the log is before the one above it.`);
    possibleNumber(voltageV, specs.voltageV);
    possibleNumber(currentA, specs.currentA);
    possibleNumber(tempC, specs.tempC);
    return { at: Math.min(at, start + afterMin * MINUTE), voltageV, currentA, tempC };
  });
  const looks = merged(readingsOf(state, step.key), logged);
  // One charge is at hand at a time: its readings are the latest.
  let others: ReadingChain | undefined = state.readings;
  while (others?.step === step.key) others = others.before;
  const watch = watchAt(state, step, definition, looks[0]?.tempC ?? 0);
  let readings = others;
  let finding: Finding | undefined;
  // The first thing that should have stopped it counts, however it went on.
  for (const look of looks) {
    const next = linked(watch, charge, readings, step.key, look);
    readings = next.link;
    finding ??= next.finding;
  }
  const read: JobState = { ...state, ...(readings ? { readings } : {}) };
  const last = looks.at(-1);
  return last ? judged(read, step, definition, charge, last, finding) : read;
}
