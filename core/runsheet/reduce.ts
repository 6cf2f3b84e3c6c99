/**
 * The run sheet's interpreter: one event and the state before it give the state after, or a RunSheetError
 * and nothing changed. It knows step kinds, never a procedure by name.
 */
import { absoluteCeilingA } from '../charge/firstCharge.ts';
import { checkReading } from '../units/reading.ts';
import { RunSheetError } from './errors.ts';
import type { Entry, EventKind, EventPayloads, JobEvent, OpenedPayload, StepValues } from './events.ts';
import { chargeSpecs, TEMPERATURE_SPEC } from './fields.ts';
import { guardHold } from './guards.ts';
import { procedureById } from './procedures/procedures.ts';
import { settle } from './settle.ts';
import { resolveThreshold } from './thresholds.ts';
import {
  applicableSteps,
  basisOf,
  contextOf,
  definitionOf,
  dwellEnd,
  keyOf,
  minutesOnCharge,
  procedureOf,
  type ChargeState,
  type JobState,
  type StepState,
} from './state.ts';
import type { ChargeStep, DecideStep, GateStep, MeasureStep, Outcome, Step } from './step.ts';

type EventOf<K extends EventKind> = {
  readonly at: number;
  readonly by: string;
  readonly payload: EventPayloads[K];
};

/** The state a job begins in. */
export function openJob(event: JobEvent & { kind: 'opened' }): JobState {
  const opened: OpenedPayload = event.payload;
  const steps = applicableSteps(procedureById(opened.procedure), opened).map((step): StepState => ({
    key: keyOf(step.id, 1),
    stepId: step.id,
    round: 1,
    status: 'ahead',
  }));
  const first = steps[0];
  if (first) steps[0] = { ...first, status: 'open', openedAt: event.at };
  return { job: event.job, opened, openedAt: event.at, steps, cursor: 0, notes: [] };
}

function withStep(state: JobState, patch: Partial<StepState>, index = state.cursor): JobState {
  const steps = state.steps.slice();
  const before = steps[index];
  if (before) steps[index] = { ...before, ...patch };
  return { ...state, steps };
}

/** Marks the step at hand and opens the next, passing over those that go with a skipped one. */
function advance(state: JobState, at: number, patch: Partial<StepState>): JobState {
  let next = withStep(state, { ...patch, doneAt: at });
  let cursor = state.cursor + 1;
  for (; cursor < next.steps.length; cursor++) {
    const step = next.steps[cursor];
    if (!step) break;
    const needed = definitionOf(next, step).needs;
    const isMoot =
      needed !== undefined &&
      next.steps.some((other) => other.stepId === needed && other.status === 'skipped');
    next = withStep(
      next,
      isMoot ? { status: 'skipped', openedAt: at, doneAt: at } : { status: 'open', openedAt: at },
      cursor,
    );
    if (!isMoot) break;
  }
  return { ...next, cursor };
}

function hold(state: JobState, why: string, canOverride: boolean, patch: Partial<StepState> = {}): JobState {
  return withStep(state, { ...patch, status: 'held', why, canOverride });
}

function endJob(state: JobState, at: number, outcome: Outcome, outcomeNote: string): JobState {
  return { ...state, outcome, outcomeNote, endedAt: at };
}

/** "1 h 05 min" until a moment. */
function timeLeft(fromMs: number, toMs: number): string {
  const minutes = Math.max(1, Math.ceil((toMs - fromMs) / 60_000));
  return minutes < 60
    ? `${minutes} min`
    : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')} min`;
}

/** The step an event speaks of must be the one at hand. */
function atHand(state: JobState, stepKey: string, at: number): { step: StepState; definition: Step } {
  const step = state.steps[state.cursor];
  if (!step || state.outcome)
    throw new RunSheetError('closed', 'This job has ended; nothing more is recorded on its steps.');
  const definition = definitionOf(state, step);
  if (step.key === stepKey) return { step, definition };
  const index = state.steps.findIndex((candidate) => candidate.key === stepKey);
  if (index < 0) throw new RunSheetError('not-open', `This run sheet has no step “${stepKey}”.`);
  const asked = state.steps[index];
  const title = asked ? definitionOf(state, asked).title : stepKey;
  if (index < state.cursor)
    throw new RunSheetError('not-open', `“${title}” is already recorded; correct it in the log.`);
  if (definition.kind === 'dwell') {
    const until = dwellEnd(state, step);
    const left = until === undefined ? '' : `: ${timeLeft(at, until)} to go`;
    throw new RunSheetError(
      'too-early',
      `“${title}” is not open yet; “${definition.title}” is running${left}.`,
    );
  }
  throw new RunSheetError('not-open', `“${title}” is not open yet; “${definition.title}” comes first.`);
}

function expectKind<K extends Step['kind']>(
  definition: Step,
  kinds: readonly K[],
): Extract<Step, { kind: K }> {
  if (!(kinds as readonly string[]).includes(definition.kind))
    throw new RunSheetError('bad-entry', `“${definition.title}” does not take this kind of entry.`);
  return definition as Extract<Step, { kind: K }>;
}

function checkGuard(state: JobState, step: StepState, definition: GateStep, at: number): void {
  if (!definition.guard || step.reason !== undefined) return;
  const held = guardHold(definition.guard, state, state.cursor, at);
  if (held) throw new RunSheetError('held', `${held.why} Start it later, or record why it goes on now.`);
}

function affirmed(state: JobState, { at, by, payload }: EventOf<'affirmed'>): JobState {
  const { step, definition } = atHand(state, payload.step, at);
  const confirmed = expectKind(definition, ['gate', 'act']);
  if (confirmed.kind === 'gate') {
    if (confirmed.code || confirmed.chambers)
      throw new RunSheetError(
        'bad-entry',
        `“${confirmed.title}” needs to be looked at: ${confirmed.code ? 'enter the code' : 'mark each chamber'}.`,
      );
    checkGuard(state, step, confirmed, at);
  }
  const done = advance(state, at, { status: 'done', by });
  return confirmed.kind === 'act' && confirmed.ends ? endJob(done, at, confirmed.ends, '') : done;
}

const tidyCode = (code: string): string =>
  code
    .trim()
    .toUpperCase()
    .replace(/[\s–—]+/g, '-');

function observed(state: JobState, { at, by, payload }: EventOf<'observed'>): JobState {
  const { step, definition } = atHand(state, payload.step, at);
  const gate = expectKind(definition, ['gate']);
  if (gate.code) {
    const code = tidyCode(payload.code ?? '');
    if (code === '') throw new RunSheetError('bad-entry', 'Enter the code printed on the pack.');
    const expected = gate.code.expected(contextOf(state, step.round));
    if (code === tidyCode(expected)) return advance(state, at, { status: 'done', by, code });
    return hold(
      state,
      `Pack code ${code} is not for this battery; it takes ${expected}. Fetch the right pack.`,
      false,
      { code, by },
    );
  }
  if (!gate.chambers) throw new RunSheetError('bad-entry', `“${gate.title}” is affirmed, not looked at.`);
  const { cells } = state.opened.type;
  const chambers = payload.chambers ?? [];
  if (chambers.length !== cells)
    throw new RunSheetError('bad-entry', `Mark all ${cells} chambers; ${chambers.length} were marked.`);
  if (chambers.every(Boolean)) return advance(state, at, { status: 'done', by, chambers });
  const failing = chambers.flatMap((isFine, index) => (isFine ? [] : [index + 1]));
  const which = failing.length === 1 ? `Chamber ${failing.join('')}` : `Chambers ${failing.join(', ')}`;
  return hold(state, `${which}: ${gate.chambers.no}. ${gate.chambers.remedy}.`, false, { chambers, by });
}

function denied(state: JobState, { at, by, payload }: EventOf<'denied'>): JobState {
  const { definition } = atHand(state, payload.step, at);
  const asked = expectKind(definition, ['gate', 'measure']);
  const denial = asked.denials.find((candidate) => candidate.id === payload.denial);
  if (!denial) throw new RunSheetError('bad-entry', `“${asked.title}” has no answer “${payload.denial}”.`);
  if (denial.leads === 'hold') return hold(state, denial.say, false, { by });
  return endJob(
    withStep(state, { status: 'held', why: denial.say, canOverride: false, by, doneAt: at }),
    at,
    denial.outcome,
    denial.say,
  );
}

/** Numbers must be possible, choices must be on offer, and nothing asked for may be missing. */
function checkedValues(
  definition: MeasureStep,
  values: StepValues,
  state: JobState,
  round: number,
): StepValues {
  const context = contextOf(state, round);
  const kept: Record<string, number | string> = {};
  for (const field of definition.fields) {
    const value = values[field.id];
    if (field.kind === 'choice') {
      if (!field.options.some((option) => option.id === value))
        throw new RunSheetError(
          'bad-entry',
          `${field.label}: choose ${field.options.map((option) => option.label.toLowerCase()).join(' or ')}.`,
        );
      kept[field.id] = String(value);
      continue;
    }
    if (field.shownWhen && kept[field.shownWhen.field] !== field.shownWhen.is) continue;
    if (value === undefined && field.optional) continue;
    const spec = field.spec(context);
    kept[field.id] = possibleNumber(value, spec);
  }
  const strange = Object.keys(values).find((id) => !definition.fields.some((field) => field.id === id));
  if (strange !== undefined)
    throw new RunSheetError('bad-entry', `“${definition.title}” does not ask for “${strange}”.`);
  return kept;
}

function possibleNumber(value: unknown, spec: Parameters<typeof checkReading>[1]): number {
  if (typeof value !== 'number' || !Number.isFinite(value))
    throw new RunSheetError(
      'bad-entry',
      `${spec.label}: a number is needed, ${spec.possible.min} to ${spec.possible.max} ${spec.unit}.`,
    );
  const checked = checkReading(value, spec);
  if (checked.kind === 'refused') throw new RunSheetError('bad-entry', checked.sentence);
  if (checked.kind === 'ask' && checked.value === undefined)
    throw new RunSheetError(
      'bad-entry',
      `${spec.label}: ${value} ${spec.unit} cannot be; did you mean ${checked.question}`,
    );
  return value;
}

function measured(state: JobState, { at, by, payload }: EventOf<'measured'>): JobState {
  const { step, definition } = atHand(state, payload.step, at);
  const measure = expectKind(definition, ['measure']);
  const values = checkedValues(measure, payload.values, state, step.round);
  const held = measure.holds(values, contextOf(state, step.round));
  const recorded = { values, source: payload.source, by };
  if (held) return hold(state, held.why, held.canOverride, recorded);
  return advance(state, at, { ...recorded, status: 'done' });
}

function skipped(state: JobState, { at, by, payload }: EventOf<'skipped'>): JobState {
  const { definition } = atHand(state, payload.step, at);
  if (!definition.skipLabel)
    throw new RunSheetError('bad-entry', `“${definition.title}” cannot be left out.`);
  return advance(state, at, { status: 'skipped', by });
}

function overridden(state: JobState, { at, by, payload }: EventOf<'overridden'>): JobState {
  const { step, definition } = atHand(state, payload.step, at);
  const reason = payload.reason.trim();
  if (reason.length < 8)
    throw new RunSheetError(
      'bad-entry',
      'Say in a few words why, at least 8 letters; it stands on the record.',
    );
  if (definition.kind === 'gate' && definition.guard && guardHold(definition.guard, state, state.cursor, at))
    return withStep(state, { reason, by });
  const canOverride =
    definition.kind === 'dwell'
      ? definition.canOverride
      : step.status === 'held' && step.canOverride === true;
  if (!canOverride)
    throw new RunSheetError('held', `“${definition.title}” cannot be passed over; it must be met.`);
  return advance(state, at, { status: 'overridden', by, reason });
}

function chargeAtHand(
  state: JobState,
  stepKey: string,
  at: number,
): { definition: ChargeStep; step: StepState } {
  const { step, definition } = atHand(state, stepKey, at);
  return { step, definition: expectKind(definition, ['charge']) };
}

function runningCharge(
  state: JobState,
  stepKey: string,
  at: number,
): { step: StepState; charge: ChargeState } {
  const { step } = chargeAtHand(state, stepKey, at);
  if (!step.charge) throw new RunSheetError('bad-entry', 'The charger has not been switched on yet.');
  return { step, charge: step.charge };
}

const isOn = (charge: ChargeState): boolean => charge.pausedFor === undefined;

function stopped(charge: ChargeState, at: number): ChargeState {
  return { ...charge, runs: charge.runs.map((run) => (run.to === undefined ? { ...run, to: at } : run)) };
}

function chargeStarted(state: JobState, { at, by, payload }: EventOf<'chargeStarted'>): JobState {
  const { step, definition } = chargeAtHand(state, payload.step, at);
  if (step.charge) throw new RunSheetError('bad-entry', `“${definition.title}” is already running.`);
  const setA = contextOf(state, step.round).chargeSetting().current.value;
  const ceilingA = Math.min(setA, absoluteCeilingA(basisOf(state)));
  if (!(payload.currentA >= ceilingA / 10 && payload.currentA <= ceilingA + 1e-9))
    throw new RunSheetError(
      'bad-entry',
      `Charge current: ${payload.currentA} A is outside ${(ceilingA / 10).toFixed(2)} to ${ceilingA.toFixed(2)} A for this first charge.`,
    );
  const charge: ChargeState = {
    currentA: payload.currentA,
    runs: [{ from: at }],
    fullSignal: false,
  };
  return withStep(state, { charge, by });
}

function chargeRead(state: JobState, { at, payload }: EventOf<'chargeRead'>): JobState {
  const { charge } = runningCharge(state, payload.step, at);
  const specs = chargeSpecs(state.opened.type, charge.currentA);
  const { voltageV, currentA, tempC } = payload.values;
  possibleNumber(voltageV, specs.voltageV);
  possibleNumber(currentA, specs.currentA);
  possibleNumber(tempC, specs.tempC);
  const { step } = payload;
  const reading = { at, voltageV, currentA, tempC };
  const before = state.readings;
  const read: JobState = { ...state, readings: before ? { step, reading, before } : { step, reading } };
  const limit = resolveThreshold('hotPauseC', basisOf(state)).value;
  if (isOn(charge) && tempC > limit)
    return hold(read, `${tempC.toFixed(1)} °C: charger off now. ${limit} °C is the limit.`, false);
  return read;
}

function chargePaused(state: JobState, { at, by, payload }: EventOf<'chargePaused'>): JobState {
  const { charge } = runningCharge(state, payload.step, at);
  if (!isOn(charge)) throw new RunSheetError('bad-entry', 'The charger is already off.');
  const paused: ChargeState = { ...stopped(charge, at), pausedFor: payload.reason };
  const why =
    payload.reason === 'hot'
      ? 'Too hot: the charger is off while it cools. The lost time is added.'
      : 'The charger is off. The lost time is added.';
  return hold(state, why, false, { charge: paused, by });
}

function chargeResumed(state: JobState, { at, by, payload }: EventOf<'chargeResumed'>): JobState {
  const { step, charge } = runningCharge(state, payload.step, at);
  if (isOn(charge)) throw new RunSheetError('bad-entry', 'The charger is already on.');
  possibleNumber(payload.tempC, TEMPERATURE_SPEC);
  const below = contextOf(state, step.round).threshold('hotResumeC').value;
  if (payload.tempC >= below)
    throw new RunSheetError(
      'held',
      `${payload.tempC.toFixed(1)} °C: it must be below ${below} °C before the charger goes on again.`,
    );
  const { pausedFor: _over, ...rest } = charge;
  return withStep(state, { status: 'open', charge: { ...rest, runs: [...charge.runs, { from: at }] }, by });
}

function chargeEnded(state: JobState, { at, by, payload }: EventOf<'chargeEnded'>): JobState {
  const { step, charge } = runningCharge(state, payload.step, at);
  const dueMin =
    contextOf(state, step.round).chargeSetting().totalMin *
    (contextOf(state, step.round).chargeSetting().current.value / charge.currentA);
  const leftMin = dueMin - minutesOnCharge(charge, at);
  if (leftMin > 0 && !payload.fullSignal)
    throw new RunSheetError(
      'too-early',
      `${timeLeft(0, leftMin * 60_000)} of charge are still due. Pause it, or record the charger’s full signal.`,
    );
  const { pausedFor: _over, ...rest } = stopped(charge, at);
  return advance(state, at, { status: 'done', charge: { ...rest, fullSignal: payload.fullSignal }, by });
}

/** The verdicts a person may sign: the engine's, or a stricter one. */
export function allowedVerdicts(definition: DecideStep, state: JobState, round: number): readonly string[] {
  const { verdict } = definition.judge(contextOf(state, round));
  return verdict === 'reject' ? ['reject'] : [verdict, 'reject'];
}

function decided(state: JobState, { at, by, payload }: EventOf<'decided'>): JobState {
  const { step, definition } = atHand(state, payload.step, at);
  const decide = expectKind(definition, ['decide']);
  const allowed = allowedVerdicts(decide, state, step.round);
  if (!allowed.includes(payload.verdict))
    throw new RunSheetError(
      'held',
      `The readings do not allow “${payload.verdict}”; they say “${allowed[0] ?? ''}”.`,
    );
  if (payload.verdict === 'reject') {
    const marked = withStep(state, { status: 'done', verdict: payload.verdict, by, doneAt: at });
    return endJob(marked, at, 'rejected', `Rejected at the test of charge ${step.round}.`);
  }
  if (payload.verdict === 'pass') return advance(state, at, { status: 'done', verdict: payload.verdict, by });
  return advance(withRepeat(state, step.round + 1), at, { status: 'done', verdict: payload.verdict, by });
}

/** Puts the loop's steps in again behind the verdict. */
function withRepeat(state: JobState, round: number): JobState {
  const procedure = procedureOf(state);
  const steps = applicableSteps(procedure, state.opened);
  const from = steps.findIndex((step) => step.id === procedure.loop.from);
  const to = steps.findIndex((step) => step.id === procedure.loop.to);
  const again = steps
    .slice(from, to + 1)
    .filter((step) => !step.oncePerJob)
    .map((step): StepState => ({ key: keyOf(step.id, round), stepId: step.id, round, status: 'ahead' }));
  return {
    ...state,
    steps: [...state.steps.slice(0, state.cursor + 1), ...again, ...state.steps.slice(state.cursor + 1)],
  };
}

function withdrawn(state: JobState, { at, payload }: EventOf<'withdrawn'>): JobState {
  if (state.outcome) throw new RunSheetError('closed', 'This job has already ended.');
  const step = state.steps[state.cursor];
  if (step?.charge && isOn(step.charge))
    throw new RunSheetError('held', 'The charger is on: switch it off before the job is withdrawn.');
  return endJob(state, at, 'withdrawn', payload.reason);
}

/**
 * Applies one plain event; corrections are resolved before this, in `fold.ts`.
 * @throws RunSheetError when the run sheet does not take it; the state given is untouched
 */
export function reduce(before: JobState, event: JobEvent): JobState {
  return apply(settle(before, event.at), event, event);
}

function apply(state: JobState, { at, by }: { at: number; by: string }, entry: Entry): JobState {
  switch (entry.kind) {
    case 'affirmed':
      return affirmed(state, { at, by, payload: entry.payload });
    case 'observed':
      return observed(state, { at, by, payload: entry.payload });
    case 'denied':
      return denied(state, { at, by, payload: entry.payload });
    case 'measured':
      return measured(state, { at, by, payload: entry.payload });
    case 'skipped':
      return skipped(state, { at, by, payload: entry.payload });
    case 'overridden':
      return overridden(state, { at, by, payload: entry.payload });
    case 'chargeStarted':
      return chargeStarted(state, { at, by, payload: entry.payload });
    case 'chargeRead':
      return chargeRead(state, { at, by, payload: entry.payload });
    case 'chargePaused':
      return chargePaused(state, { at, by, payload: entry.payload });
    case 'chargeResumed':
      return chargeResumed(state, { at, by, payload: entry.payload });
    case 'chargeEnded':
      return chargeEnded(state, { at, by, payload: entry.payload });
    case 'decided':
      return decided(state, { at, by, payload: entry.payload });
    case 'noted':
      return { ...state, notes: [...state.notes, { at, by, text: entry.payload.text }] };
    case 'withdrawn':
      return withdrawn(state, { at, by, payload: entry.payload });
    case 'opened':
      throw new RunSheetError('out-of-order', 'A job is opened once, by its first entry.');
    case 'corrected':
    case 'undone':
      throw new RunSheetError('out-of-order', 'A correction is resolved before the fold.');
  }
}
