/** Laws of the run sheet, on random walks of a careless technician. */
import { expect } from 'chai';
import fc from 'fast-check';
import { RunSheetError } from './entries/errors.ts';
import type { Entry } from './entries/events.ts';
import { append, foldJob, record, type Job } from './log/fold.ts';
import { definitionOf } from './state/sheet.ts';
import { dwellEnd } from './state/settle.ts';
import type { JobState, StepState } from './state/jobState.ts';
import { settle } from './state/settle.ts';
import { TestJob } from '../test/testJob.ts';

const MINUTE = 60_000;

interface Move {
  /** Which step is addressed, counted from the one at hand. */
  readonly offset: number;
  readonly choice: number;
  readonly waitMin: number;
}

const moves = fc.array(
  fc.record({
    offset: fc.oneof(
      { weight: 9, arbitrary: fc.constant(0) },
      { weight: 1, arbitrary: fc.integer({ min: -2, max: 4 }) },
    ),
    choice: fc.nat(40),
    waitMin: fc.oneof(fc.constant(0), fc.integer({ min: 1, max: 15 }), fc.integer({ min: 60, max: 400 })),
  }),
  { minLength: 25, maxLength: 120, size: 'max' },
);

/** Something the technician might enter for a step; often right, sometimes wrong. */
function entryFor(state: JobState, step: StepState, choice: number): Entry {
  const { key } = step;
  const cells = state.opened.type.cells;
  const isSlip = choice % 10 === 0;
  const definition = definitionOf(state, step);
  const values: Record<string, Record<string, number | string>> = {
    label: isSlip ? { ceilingV: 14.6 } : {},
    'weigh-dry': { dryG: 2910 },
    'weigh-filled': { filledG: 2910 + (isSlip ? 600 : 650) },
    'ocv-soak': { ocvV: isSlip ? 10.7 : 12.7, tempC: choice % 7 === 0 ? 44 : 27 },
    'test-ocv': { ocvV: isSlip ? 12.4 : 12.84, tempC: 22 },
    'test-load': { method: 'load', loadV: isSlip ? 9.1 : 10.6 },
  };
  const forCharge: Entry[] = [
    { kind: 'chargeStarted', payload: { step: key, currentA: 0.9 } },
    {
      kind: 'chargeRead',
      payload: {
        step: key,
        values: { voltageV: 14.7, currentA: 0.05, tempC: isSlip ? 52 : 30 },
        source: 'meter',
      },
    },
    { kind: 'chargePaused', payload: { step: key, reason: 'hot' } },
    { kind: 'chargeResumed', payload: { step: key, tempC: isSlip ? 45 : 35 } },
    { kind: 'chargeEnded', payload: { step: key, fullSignal: choice > 30 } },
  ];
  if (choice === 39) return { kind: 'skipped', payload: { step: key } };
  if (choice === 40) return { kind: 'affirmed', payload: { step: key } };
  switch (definition.kind) {
    case 'gate':
      if (definition.code)
        return { kind: 'observed', payload: { step: key, code: isSlip ? 'P-12' : 'P-09' } };
      if (definition.chambers)
        return {
          kind: 'observed',
          payload: { step: key, chambers: Array.from({ length: cells }, (_, i) => !isSlip || i !== 3) },
        };
      return isSlip && definition.denials[0]?.leads === 'hold'
        ? { kind: 'denied', payload: { step: key, denial: definition.denials[0].id } }
        : { kind: 'affirmed', payload: { step: key } };
    case 'measure':
      return {
        kind: 'measured',
        payload: { step: key, values: values[step.stepId] ?? {}, source: 'keypad' },
      };
    case 'charge':
      return forCharge[choice % forCharge.length] ?? { kind: 'noted', payload: { text: 'looked at it' } };
    case 'decide':
      return { kind: 'decided', payload: { step: key, verdict: choice % 3 === 0 ? 'repeat' : 'pass' } };
    default:
      return { kind: 'affirmed', payload: { step: key } };
  }
}

function tryRecord(job: Job, entry: Entry, at: number): Job {
  try {
    return record(job, entry, at, 'Ines');
  } catch (error) {
    if (error instanceof RunSheetError) return job;
    throw error;
  }
}

function walk(list: readonly Move[]): { job: Job; now: number } {
  const sheet = new TestJob();
  let { job, now } = sheet;
  for (const move of list) {
    now += move.waitMin * MINUTE;
    const state = settle(job.state, now);
    const step = state.steps[Math.max(0, state.cursor + move.offset)];
    if (step) job = tryRecord(job, entryFor(state, step, move.choice), now);
  }
  return { job, now };
}

describe('laws of the run sheet', () => {
  it('replaying an accepted log gives the live state', () => {
    fc.assert(
      fc.property(moves, (list) => {
        const { job } = walk(list);
        expect(foldJob(job.log).state).to.deep.equal(job.state);
      }),
      { seed: 1, numRuns: 120 },
    );
  });

  it('no order of entries shortens a dwell or skips a gate', () => {
    let deepest = 0;
    fc.assert(
      fc.property(moves, (list) => {
        const { job, now } = walk(list);
        const state = settle(job.state, now);
        deepest = Math.max(deepest, state.cursor);
        state.steps.forEach((step, index) => {
          const definition = definitionOf(state, step);
          if (index < state.cursor) {
            expect(step.status).to.be.oneOf(
              definition.skipLabel || definition.needs
                ? ['done', 'skipped', 'overridden']
                : ['done', 'overridden'],
            );
            if (definition.kind === 'gate') expect(step.status).to.equal('done');
          }
          if (definition.kind !== 'dwell' || step.status !== 'done') return;
          expect(step.doneAt).to.be.at.least(dwellEnd(state, step) ?? Number.POSITIVE_INFINITY);
          const next = state.steps[index + 1];
          if (next?.doneAt !== undefined) expect(next.doneAt).to.be.at.least(step.doneAt ?? 0);
        });
      }),
      { seed: 2, numRuns: 200 },
    );
    expect(deepest, 'the walks reach the test').to.be.above(20);
  });

  it('correcting an entry equals never having made the mistake', () => {
    fc.assert(
      fc.property(moves, fc.nat(), fc.nat(40), (list, pick, choice) => {
        const { job, now } = walk(list);
        const candidates = job.log.filter(
          (event) => event.kind === 'measured' || event.kind === 'observed' || event.kind === 'chargeRead',
        );
        const target = candidates[pick % Math.max(1, candidates.length)];
        if (!target || !('step' in target.payload)) return;
        const stepKey = target.payload.step;
        const step = job.state.steps.find((candidate) => candidate.key === stepKey);
        if (!step) return;
        const other = entryFor(job.state, step, choice);
        if (other.kind !== target.kind || !('step' in other.payload)) return;
        const correction: Entry = {
          kind: 'corrected',
          payload: { replaces: `#${target.seq}`, payload: other.payload },
        };
        const corrected = tryRecord(job, correction, now);
        const asIfRight = job.log.map((event) =>
          event.seq === target.seq ? { ...event, payload: other.payload } : event,
        ) as Job['log'];
        if (corrected === job) expect(() => foldJob(asIfRight)).to.throw(RunSheetError);
        else expect(corrected.state).to.deep.equal(foldJob(asIfRight).state);
      }),
      { seed: 3, numRuns: 150 },
    );
  });

  it('undoing the last entry equals never having made it', () => {
    fc.assert(
      fc.property(moves, (list) => {
        const { job, now } = walk(list);
        const last = job.log.at(-1);
        if (!last || last.seq === 1) return;
        const undone = record(job, { kind: 'undone', payload: { replaces: `#${last.seq}` } }, now, 'Ines');
        expect(undone.state).to.deep.equal(foldJob(job.log.slice(0, -1)).state);
        expect(undone.log).to.have.length(job.log.length + 1);
      }),
      { seed: 4, numRuns: 200 },
    );
  });
});

describe('corrections', () => {
  it('refuse to pull the ground from under later entries, and say which', () => {
    const sheet = new TestJob().checkIn();
    const safety = sheet.job.log.find(
      (event) => 'step' in event.payload && event.payload.step === 'safety#1',
    );
    expect(() => sheet.put('undone', { replaces: `#${safety?.seq ?? 0}` })).to.throw(
      RunSheetError,
      'Later entries rest on this one',
    );
  });

  it('keep the time of what they replace, so a dwell is not started anew', () => {
    const sheet = new TestJob().pressOn().wait(2).chambers('bubbles').wait(12).chambers('empty', [4]);
    const looked = sheet.job.log.at(-1);
    sheet.wait(10).put('corrected', {
      replaces: `#${looked?.seq ?? 0}`,
      payload: { step: 'empty#1', chambers: Array.from({ length: 6 }, () => true) },
    });
    expect(sheet.job.state.steps.find((step) => step.stepId === 'empty')?.doneAt).to.equal(looked?.at);
  });

  it('leave the opening alone, and entries out of order are refused', () => {
    const sheet = new TestJob();
    expect(() => sheet.put('undone', { replaces: '#1' })).to.throw(RunSheetError, 'cannot be corrected');
    expect(() =>
      append(sheet.job, {
        job: 'j1',
        seq: 7,
        key: '#7',
        at: sheet.now,
        by: 'Ines',
        kind: 'noted',
        payload: { text: 'x' },
      }),
    ).to.throw(RunSheetError, 'does not follow');
    expect(() =>
      append(sheet.job, {
        job: 'j1',
        seq: 2,
        key: '#2',
        at: sheet.now - 1,
        by: 'Ines',
        kind: 'noted',
        payload: { text: 'x' },
      }),
    ).to.throw(RunSheetError, 'earlier');
  });
});
