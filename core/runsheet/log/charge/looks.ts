/** Looks at a charge, typed, pulled or out of a logger's file: recorded, and judged where the current flows. */
import type { ChargeReading } from '../../../charge/proofOfFull.ts';
import {
  findingWords,
  firstStop,
  timedLook,
  watched,
  type Finding,
  type Watch,
} from '../../../charge/watch.ts';
import { hydrometerTo25 } from '../../../electrolyte/density.ts';
import { cellDensitySpec, CHARGE_DENSITY, chargeSpecs } from '../../definition/fields.ts';
import type { ChargeStep } from '../../definition/step.ts';
import { RunSheetError } from '../../entries/errors.ts';
import type { ChargeValues, StepPayloads } from '../../entries/events.ts';
import { isOn, readingsOf } from '../../state/looks.ts';
import type { ChargeState, JobState, ReadingChain, StepState } from '../../state/jobState.ts';
import { limitsOf, watchOf } from '../../verdict/chargeLimits.ts';
import type { AtStep } from '../atStep.ts';
import { hold, possibleNumber } from '../moves.ts';
import { charging } from './charging.ts';

const MINUTE = 60_000;
/** A logger's clock and the shop's may part by this, min. */
const CLOCKS_PART_MIN = 5;

/** What the looks of the charge at hand are held against: the same for all of them. */
const watches = new WeakMap<readonly StepState[], Watch>();

function watchAt(entry: AtStep<ChargeStep>, { currentA, dueMin = 0 }: ChargeState, tempC: number): Watch {
  const { steps } = entry.state;
  const known = watches.get(steps);
  if (known) return known;
  const watch = watchOf(entry.context, entry.definition, currentA, dueMin, tempC);
  watches.set(steps, watch);
  return watch;
}

/** Asked for with every look of a charge, and the same for all of them. */
const hotLimits = new WeakMap<readonly StepState[], number>();

function hotLimitC(entry: AtStep<ChargeStep>, { dueMin = 0 }: ChargeState): number {
  const { steps } = entry.state;
  const known = hotLimits.get(steps);
  if (known !== undefined) return known;
  const { hotC } = limitsOf(entry.context, entry.definition, dueMin);
  hotLimits.set(steps, hotC);
  return hotC;
}

/**
 * Puts a look behind those before it.
 * @returns the link, and what stops the charge, if something does
 */
function linked(
  watch: Watch,
  charge: ChargeState,
  before: ReadingChain | undefined,
  step: string,
  reading: ChargeReading,
): { readonly link: ReadingChain; readonly finding: Finding | undefined } {
  const previous = before?.step === step ? before : undefined;
  const state = watched(watch, previous?.watch, timedLook(reading, previous?.reading, charge.runs));
  const finding = firstStop(watch, state, previous?.watch);
  const behind = previous ? withoutWatch(previous) : before;
  return { link: { step, reading, watch: state, ...(behind ? { before: behind } : {}) }, finding };
}

/** What a charge came to stands with its newest look alone: a look each second would be the most a shop holds. */
function withoutWatch({ step, reading, before }: ReadingChain): ReadingChain {
  return before ? { step, reading, before } : { step, reading };
}

/** A look judged: hot is a pause, a stop rule is the end of the charge. */
function judged(
  read: JobState,
  entry: AtStep<ChargeStep>,
  charge: ChargeState,
  { at, tempC }: ChargeReading,
  finding: Finding | undefined,
): JobState {
  if (!isOn(charge) || charge.stopped) return read;
  const { step } = entry;
  // Off since the look that first said so: another one changes nothing of when it was due.
  const heldAt = step.status === 'held' ? (step.heldAt ?? at) : at;
  if (finding) {
    const why = findingWords(finding);
    return hold(read, why, false, { heldAt, charge: { ...charge, stopped: { rule: finding.rule, why } } });
  }
  const limitC = hotLimitC(entry, charge);
  return tempC > limitC
    ? hold(read, `${tempC.toFixed(1)} °C: charger off now. ${limitC} °C is the limit.`, false, { heldAt })
    : read;
}

function checkCells(densities: readonly number[], cells: number): void {
  if (densities.length !== cells)
    throw new RunSheetError(
      'bad-entry',
      `Density of every cell: ${cells} are needed, ${densities.length} came.`,
    );
  densities.forEach((density, index) =>
    possibleNumber(density, cellDensitySpec(`Density, cell ${index + 1}`)),
  );
}

/** @throws RunSheetError naming the value that cannot be */
function checkLook({ voltageV, currentA, tempC }: ChargeValues, specs: ReturnType<typeof chargeSpecs>): void {
  possibleNumber(voltageV, specs.voltageV);
  possibleNumber(currentA, specs.currentA);
  possibleNumber(tempC, specs.tempC);
}

export function chargeRead(at: AtStep, { values }: StepPayloads['chargeRead']): JobState {
  const { charge, entry } = charging(at);
  const { state } = entry;
  checkLook(values, chargeSpecs(state.opened.type, charge.currentA));
  const { voltageV, currentA, tempC, density, cellDensities } = values;
  if (density !== undefined) possibleNumber(density, CHARGE_DENSITY);
  if (cellDensities) checkCells(cellDensities, state.opened.type.cells);
  const reading = {
    at: entry.at,
    voltageV,
    currentA,
    tempC,
    ...(density === undefined ? {} : { density: hydrometerTo25(density, tempC) }),
    ...(cellDensities ? { cellDensities: cellDensities.map((one) => hydrometerTo25(one, tempC)) } : {}),
  };
  const watch = watchAt(entry, charge, tempC);
  const { link, finding } = linked(watch, charge, state.readings, entry.step.key, reading);
  // Written out, since a long charge does little else; a job with a charge running has no ending yet.
  const { job, opened, openedAt, bay, steps, cursor, notes, photos, routes, evidence } = state;
  const plain: JobState = { job, opened, openedAt, bay, steps, cursor, notes, photos, readings: link };
  const read: JobState =
    routes || evidence
      ? { ...plain, ...(routes ? { routes } : {}), ...(evidence ? { evidence } : {}) }
      : plain;
  return judged(read, entry, charge, reading, finding);
}

/** The readings of a charge and those of its log in order of time; where both stand, what was typed stays. */
function merged(looks: readonly ChargeReading[], logged: readonly ChargeReading[]): ChargeReading[] {
  const typed = new Set(looks.map(({ at }) => at));
  return [...looks, ...logged.filter(({ at }) => !typed.has(at))].sort((a, b) => a.at - b.at);
}

/** Rows of a logger's file as readings of this charge. @throws RunSheetError naming the row that cannot be */
function loggedReadings(
  { state, at }: AtStep<ChargeStep>,
  { runs, currentA: setA }: ChargeState,
  rows: StepPayloads['chargeLogged']['readings'],
): ChargeReading[] {
  const specs = chargeSpecs(state.opened.type, setA);
  const start = runs[0]?.from ?? at;
  const lastMin = rows.at(-1)?.afterMin ?? 0;
  const sinceMin = (at - start) / MINUTE;
  if (lastMin > sinceMin + CLOCKS_PART_MIN)
    throw new RunSheetError(
      'bad-entry',
      `The log lasts ${lastMin.toFixed(0)} min, this charge ${sinceMin.toFixed(0)} min so far: it is of another charge, or its time is in another unit.`,
    );
  return rows.map((row, index) => {
    const { afterMin, voltageV, currentA, tempC } = row;
    if (afterMin < (rows[index - 1]?.afterMin ?? 0))
      throw new RunSheetError('bad-entry', `Row ${index + 1} of the log is before the one above it.`);
    checkLook(row, specs);
    return { at: Math.min(at, start + afterMin * MINUTE), voltageV, currentA, tempC };
  });
}

/** A logger's file of the charge at hand: its readings stand among those that were typed. */
export function chargeLogged(at: AtStep, payload: StepPayloads['chargeLogged']): JobState {
  const { charge, entry } = charging(at);
  const { state, step } = entry;
  const looks = merged(readingsOf(state, step.key), loggedReadings(entry, charge, payload.readings));
  // One charge is at hand at a time: its readings are the latest.
  let others: ReadingChain | undefined = state.readings;
  while (others?.step === step.key) others = others.before;
  const watch = watchAt(entry, charge, looks[0]?.tempC ?? 0);
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
  return last ? judged(read, entry, charge, last, finding) : read;
}
