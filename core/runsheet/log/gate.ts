/** Entries at a gate: affirmed, looked at, or answered with what is wrong. */
import { inSentence } from '../../units/inSentence.ts';
import type { GateStep } from '../definition/step.ts';
import { RunSheetError } from '../entries/errors.ts';
import type { StepPayloads } from '../entries/events.ts';
import { guardHold } from '../plan/guards.ts';
import type { JobState } from '../state/jobState.ts';
import type { AtStep } from './atStep.ts';
import { advance, endJob, hold, withStep } from './moves.ts';

function checkGuard({ state, step, definition, at }: AtStep<GateStep>): void {
  if (!definition.guard || step.reason !== undefined) return;
  const held = guardHold(definition.guard, state, state.cursor, at);
  if (held) throw new RunSheetError('held', `${held.why} Start it later, or record why it goes on now.`);
}

export function affirmed(entry: AtStep): JobState {
  const { state, at, by } = entry;
  const { definition: confirmed } = entry.as('gate', 'act');
  if (confirmed.kind === 'gate') {
    if (confirmed.code || confirmed.chambers)
      throw new RunSheetError(
        'bad-entry',
        `“${confirmed.title}” needs to be looked at: ${confirmed.code ? 'enter the code' : 'mark each chamber'}.`,
      );
    checkGuard(entry.as('gate'));
  }
  const done = advance(state, at, { status: 'done', by });
  return confirmed.kind === 'act' && confirmed.ends ? endJob(done, at, confirmed.ends, '') : done;
}

const tidyCode = (code: string): string =>
  code
    .trim()
    .toUpperCase()
    .replace(/[\s–—]+/g, '-');

/** Letters and digits alone: "p09", "P 09" and "P-09" are one code. */
const isSameCode = (one: string, other: string): boolean =>
  one.replace(/[^\p{L}\p{N}]/gu, '').toUpperCase() === other.replace(/[^\p{L}\p{N}]/gu, '').toUpperCase();

function codeRead({ state, at, by }: AtStep<GateStep>, expected: string, typed: string): JobState {
  const code = tidyCode(typed);
  if (code === '') throw new RunSheetError('bad-entry', 'Enter the code printed on the pack.');
  // It stands in the log as the catalogue writes it, however it was typed.
  if (isSameCode(code, expected)) return advance(state, at, { status: 'done', by, code: tidyCode(expected) });
  return hold(
    state,
    `Pack code ${code} is not for this battery; it takes ${expected}. Fetch the right pack.`,
    false,
    { code, by },
  );
}

export function observed(entry: AtStep, payload: StepPayloads['observed']): JobState {
  const gate = entry.as('gate');
  const { state, at, by, context, definition } = gate;
  checkGuard(gate);
  if (definition.code) return codeRead(gate, definition.code.expected(context), payload.code ?? '');
  if (!definition.chambers)
    throw new RunSheetError('bad-entry', `“${definition.title}” is affirmed, not looked at.`);
  const { name, no, remedy } = definition.chambers;
  const { cells } = state.opened.type;
  const chambers = payload.chambers ?? [];
  if (chambers.length !== cells)
    throw new RunSheetError(
      'bad-entry',
      `Mark all ${cells} ${inSentence(name)}s; ${chambers.length} were marked.`,
    );
  if (chambers.every(Boolean)) return advance(state, at, { status: 'done', by, chambers });
  const failing = chambers.flatMap((isFine, index) => (isFine ? [] : [index + 1]));
  const which = failing.length === 1 ? `${name} ${failing.join('')}` : `${name}s ${failing.join(', ')}`;
  return hold(state, `${which}: ${no}. ${remedy}.`, false, { chambers, by });
}

export function denied(entry: AtStep, payload: StepPayloads['denied']): JobState {
  const { state, at, by, definition } = entry.as('gate', 'measure');
  const denial = definition.denials.find((candidate) => candidate.id === payload.denial);
  if (!denial)
    throw new RunSheetError('bad-entry', `“${definition.title}” has no answer “${payload.denial}”.`);
  if (denial.leads === 'hold') return hold(state, denial.say, false, { by });
  return endJob(
    withStep(state, { status: 'held', why: denial.say, canOverride: false, by, doneAt: at }),
    at,
    denial.outcome,
    denial.say,
  );
}
