/**
 * The run sheet's interpreter: one event and the state before it give the state after, or a RunSheetError
 * and nothing changed. It knows step kinds, never a procedure by name.
 */
import { inSentence } from '../units/inSentence.ts';
import { RunSheetError } from './errors.ts';
import type { Entry, EventPayloads, JobEvent, OpenedPayload, StepValues } from './events.ts';
import { guardHold } from './guards.ts';
import {
  advance,
  atHand,
  endJob,
  expectKind,
  hold,
  possibleNumber,
  skipToRoute,
  withStep,
  type EventOf,
} from './moves.ts';
import { procedureById } from './procedures/procedures.ts';
import { routed, routeLeft } from './reduceRoute.ts';
import { chargeLogged } from './reduceLog.ts';
import { standsText } from './place.ts';
import {
  chargeEnded,
  chargePaused,
  chargeRead,
  chargeResumed,
  chargeSet,
  chargeStarted,
  isOn,
} from './reduceCharge.ts';
import { settle } from './settle.ts';
import { applicableSteps, contextOf, keyOf, procedureOf, type JobState, type StepState } from './state.ts';
import { isAsked, optionsFor, type DecideStep, type GateStep, type MeasureStep } from './step.ts';

/** The state a job begins in. */
export function openJob(event: JobEvent & { kind: 'opened' }): JobState {
  const opened: OpenedPayload = event.payload;
  const steps = applicableSteps(procedureById(opened.procedure, opened.edition ?? 1), opened).map(
    (step): StepState => ({
      key: keyOf(step.id, 1),
      stepId: step.id,
      round: 1,
      status: 'ahead',
    }),
  );
  const first = steps[0];
  const openedAt = Math.max(event.at, opened.plannedAt ?? event.at);
  if (first) steps[0] = { ...first, status: 'open', openedAt };
  return {
    job: event.job,
    opened,
    openedAt: event.at,
    bay: opened.bay,
    steps,
    cursor: 0,
    notes: [],
    photos: [],
  };
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
  checkGuard(state, step, gate, at);
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
    throw new RunSheetError(
      'bad-entry',
      `Mark all ${cells} ${inSentence(gate.chambers.name)}s; ${chambers.length} were marked.`,
    );
  if (chambers.every(Boolean)) return advance(state, at, { status: 'done', by, chambers });
  const failing = chambers.flatMap((isFine, index) => (isFine ? [] : [index + 1]));
  const { name } = gate.chambers;
  const which = failing.length === 1 ? `${name} ${failing.join('')}` : `${name}s ${failing.join(', ')}`;
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
      if (!isAsked(field, kept)) continue;
      if (field.inCell !== undefined && field.inCell > context.opened.type.cells) continue;
      if (field.optional && value === undefined) continue;
      const options = optionsFor(field, context.opened.type);
      if (!options.some((option) => option.id === value))
        throw new RunSheetError(
          'bad-entry',
          `${field.label}: choose ${options.map((option) => inSentence(option.label)).join(' or ')}.`,
        );
      kept[field.id] = String(value);
      continue;
    }
    if (!isAsked(field, kept)) continue;
    if (field.inCell !== undefined && field.inCell > context.opened.type.cells) continue;
    const isGivenElse = field.insteadOf !== undefined && values[field.insteadOf] !== undefined;
    const isNeeded = !field.optional && !isGivenElse && (field.isFor?.(context.opened.type) ?? true);
    if (value === undefined && !isNeeded) continue;
    const spec = field.spec(context);
    kept[field.id] = possibleNumber(value, spec);
  }
  const strange = Object.keys(values).find((id) => !definition.fields.some((field) => field.id === id));
  if (strange !== undefined)
    throw new RunSheetError('bad-entry', `“${definition.title}” does not ask for “${strange}”.`);
  return kept;
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

/** The verdicts a person may sign: the engine's, or a stricter one. */
function allowedVerdicts(definition: DecideStep, state: JobState, round: number): readonly string[] {
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
    const isRecovery = procedureOf(state).routes !== undefined;
    return isRecovery
      ? endJob(marked, at, 'retired', 'Graded R: to the recycler.')
      : endJob(marked, at, 'rejected', `Rejected at the test of charge ${step.round}.`);
  }
  if (payload.verdict === 'pass') return advance(state, at, { status: 'done', verdict: payload.verdict, by });
  if (procedureOf(state).routes)
    return skipToRoute(state, at, { status: 'done', verdict: payload.verdict, by });
  return advance(withRepeat(state, step.round + 1), at, { status: 'done', verdict: payload.verdict, by });
}

/** Puts the loop's steps in again behind the verdict. */
function withRepeat(state: JobState, round: number): JobState {
  const procedure = procedureOf(state);
  const steps = applicableSteps(procedure, state.opened, true);
  const from = steps.findIndex((step) => procedure.loop.from.includes(step.id));
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

/** Only a recovery asks what is the matter, and only of cells the battery has. */
function evidenced(state: JobState, { at, by, payload }: EventOf<'evidenced'>): JobState {
  if (state.outcome) throw new RunSheetError('closed', 'This job has already ended.');
  if (!procedureOf(state).routes)
    throw new RunSheetError('bad-entry', 'Only a battery that is brought back is asked what is the matter.');
  const { reading } = payload;
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
  return { ...state, evidence: [...(state.evidence ?? []), { at, by, reading }] };
}

function placed(state: JobState, { payload: { bay } }: EventOf<'placed'>): JobState {
  if (state.outcome) throw new RunSheetError('closed', 'This job has already ended.');
  const charge = state.steps[state.cursor]?.charge;
  if (charge && isOn(charge))
    throw new RunSheetError('held', 'The charger is on: switch it off before the battery is moved.');
  if (bay === state.bay) throw new RunSheetError('bad-entry', `It stands ${standsText(bay)} already.`);
  return { ...state, bay };
}

/** A promise and an owner are agreed, not measured: they may be agreed anew, with a reason, while the job is open. */
function arranged(state: JobState, { at, payload: { promisedAt, owner } }: EventOf<'arranged'>): JobState {
  if (state.outcome) throw new RunSheetError('closed', 'This job has already ended.');
  if (promisedAt === undefined && owner === undefined)
    throw new RunSheetError('bad-entry', 'Nothing is changed: give another promise or another owner.');
  if (promisedAt !== undefined && promisedAt <= at)
    throw new RunSheetError('bad-entry', 'Promised: the time must lie ahead.');
  const { opened } = state;
  const battery = { ...opened.battery, owner: owner ?? opened.battery.owner };
  return { ...state, opened: { ...opened, battery, promisedAt: promisedAt ?? opened.promisedAt } };
}

/** Its ending is gone from the log before this: what had ended in another way still has. */
function reopened(state: JobState, { bay }: EventPayloads['reopened']): JobState {
  if (state.outcome) throw new RunSheetError('closed', 'This job has already ended.');
  return { ...state, bay };
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
    case 'chargeLogged':
      return chargeLogged(state, { at, by, payload: entry.payload });
    case 'chargeRead':
      return chargeRead(state, { at, by, payload: entry.payload });
    case 'chargeSet':
      return chargeSet(state, { at, by, payload: entry.payload });
    case 'chargePaused':
      return chargePaused(state, { at, by, payload: entry.payload });
    case 'chargeResumed':
      return chargeResumed(state, { at, by, payload: entry.payload });
    case 'chargeEnded':
      return chargeEnded(state, { at, by, payload: entry.payload });
    case 'decided':
      return decided(state, { at, by, payload: entry.payload });
    case 'routed':
      return routed(state, { at, by, payload: entry.payload });
    case 'routeLeft':
      return routeLeft(state, { at, by, payload: entry.payload });
    case 'noted':
      return { ...state, notes: [...state.notes, { at, by, text: entry.payload.text }] };
    case 'photographed': {
      const { photo, step, caption } = entry.payload;
      return { ...state, photos: [...state.photos, { at, by, text: caption, photo, step }] };
    }
    case 'evidenced':
      return evidenced(state, { at, by, payload: entry.payload });
    case 'placed':
      return placed(state, { at, by, payload: entry.payload });
    case 'arranged':
      return arranged(state, { at, by, payload: entry.payload });
    case 'withdrawn':
      return withdrawn(state, { at, by, payload: entry.payload });
    case 'opened':
      throw new RunSheetError('out-of-order', 'A job is opened once, by its first entry.');
    case 'reopened':
      return reopened(state, entry.payload);
    case 'corrected':
    case 'undone':
    case 'amended':
      throw new RunSheetError('out-of-order', 'A correction is resolved before the fold.');
  }
}
