import { expect } from 'chai';
import fc from 'fast-check';
import { TestJob } from '../test/testJob.ts';
import type { Change, Entry, StepPayloads } from './entries/events.ts';
import { RunSheetError } from './entries/errors.ts';
import { append, endingOf, foldJob, record, type Job } from './log/fold.ts';
import { changedSince, historyOf } from './log/history.ts';

const certified = (): TestJob =>
  new TestJob().soak().charge().test(12.84).decide('pass').affirm('hand-over', 'certify');

const entryOf = (sheet: TestJob, stepId: string, kind = 'measured'): Job['log'][number] => {
  const found = sheet.job.log.find(
    (event) => event.kind === kind && 'step' in event.payload && event.payload.step.startsWith(stepId),
  );
  if (!found) throw new Error(`no entry of ${stepId}`);
  return found;
};

const rested = (ocvV: number): StepPayloads['measured'] => ({
  step: 'ocv-soak#1',
  values: { ocvV, tempC: 27 },
  source: 'keypad',
});

const why = 'the meter was read wrongly';

describe('an amendment', () => {
  it('puts an entry of an ended job right, and both stand in its history', () => {
    const sheet = certified();
    const sealed = sheet.job.log.length;
    const { key, seq } = entryOf(sheet, 'ocv-soak');
    sheet.wait(90).put('amended', { changes: [{ replaces: key, payload: rested(12.6) }], why });
    expect(sheet.job.state.outcome).to.equal('certified');
    expect(sheet.job.state.steps.find(({ stepId }) => stepId === 'ocv-soak')?.values).to.include({
      ocvV: 12.6,
    });
    const [entry] = changedSince(sheet.job, sealed);
    expect(entry).to.include({ seq, place: `#${seq}` });
    expect(entry?.was[0]).to.deep.include({ by: 'Ines', why });
    expect(entry?.was[0]?.words).to.contain('12.7');
    expect(entry?.words).to.contain('12.60');
    expect(historyOf(sheet.job).at(-1)?.words).to.contain(why);
  });

  it('names an entry by its own key, wherever it came to stand', () => {
    const at = certified();
    const job = record(
      at.job,
      { kind: 'noted', payload: { text: 'lid scratched' } },
      at.now,
      'Odd',
      'own-key',
    );
    const change: Entry = { kind: 'amended', payload: { changes: [{ replaces: 'own-key' }], why } };
    expect(record(job, change, at.now, 'Ines').state.notes).to.deep.equal([]);
  });

  it('is refused while the job is open, of what is not there, and where the job would not have ended', () => {
    const open = new TestJob().soak();
    expect(() => open.put('amended', { changes: [{ replaces: '#5' }], why })).to.throw('This job is open');
    const sheet = certified();
    expect(() => sheet.put('amended', { changes: [{ replaces: '#99' }], why })).to.throw(
      'no standing entry #99',
    );
    const last = `#${sheet.job.log.length}`;
    expect(() => sheet.put('amended', { changes: [{ replaces: last }], why })).to.throw(
      'open it again instead',
    );
    expect(() =>
      sheet.put('amended', { changes: [{ replaces: last, payload: rested(12.6) }], why }),
    ).to.throw('belongs to another step');
  });

  it('may change what was decided, where the readings bear it', () => {
    const sheet = certified();
    const decision = entryOf(sheet, 'verdict', 'decided');
    const reject: Change = { replaces: decision.key, payload: { step: 'verdict#1', verdict: 'reject' } };
    expect(() => sheet.put('amended', { changes: [reject], why })).to.throw('Later entries rest on this one');
  });
});

describe('an ending taken back', () => {
  it('opens the job again where it stood before its end, in the bay it is given', () => {
    const sheet = certified();
    const ending = endingOf(sheet.job)?.key ?? '';
    expect(ending).to.equal(entryOf(sheet, 'certify', 'affirmed').key);
    sheet.wait(5).put('reopened', { ending, bay: 3, why });
    expect(sheet.job.state).to.include({ bay: 3 });
    expect(sheet.job.state.outcome).to.equal(undefined);
    expect(sheet.current.stepId).to.equal('certify');
    sheet.affirm('certify');
    expect(sheet.job.state.outcome).to.equal('certified');
  });

  it('names the entry that ended it and no other, and is itself not undone', () => {
    const sheet = certified();
    expect(() =>
      sheet.put('reopened', { ending: entryOf(sheet, 'hand-over', 'affirmed').key, bay: 3, why }),
    ).to.throw('did not end the job');
    sheet.put('reopened', { ending: entryOf(sheet, 'certify', 'affirmed').key, bay: 3, why });
    const last = `#${sheet.job.log.length}`;
    expect(() => sheet.put('undone', { replaces: last })).to.throw('end it again instead');
    expect(() => sheet.put('amended', { changes: [{ replaces: '#5' }], why })).to.throw('This job is open');
  });

  it('of a withdrawn one gives back the step it was at', () => {
    const sheet = new TestJob().soak();
    const { stepId } = sheet.current;
    sheet.put('withdrawn', { reason: 'the owner came for it' });
    sheet.put('reopened', { ending: `#${sheet.job.log.length}`, bay: 1, why });
    expect(sheet.current.stepId).to.equal(stepId);
  });
});

describe('corrections, amendments and endings taken back, in any order', () => {
  const wish = fc.record({
    what: fc.constantFrom('corrected', 'undone', 'amended', 'reopened', 'noted', 'certify', 'withdrawn'),
    which: fc.nat(40),
    volts: fc.integer({ min: 1240, max: 1285 }),
  });

  function entryFor(job: Job, { what, which, volts }: { what: string; which: number; volts: number }): Entry {
    // One time in three what can be amended, or what ended it.
    const aimed = job.log.findLast(({ kind, payload: said }) =>
      what === 'undone'
        ? kind === 'noted'
        : what === 'reopened'
          ? kind === 'withdrawn' || (kind === 'affirmed' && said.step === 'certify#1')
          : kind === 'measured' && said.step === 'ocv-soak#1',
    );
    const target = which % 3 === 0 ? aimed : job.log[which % job.log.length];
    const replaces = which % 2 === 0 ? (target?.key ?? '') : `#${target?.seq ?? 0}`;
    const payload = rested(volts / 100);
    switch (what) {
      case 'corrected':
        return { kind: 'corrected', payload: { replaces, payload } };
      case 'undone':
        return { kind: 'undone', payload: { replaces } };
      case 'amended':
        return { kind: 'amended', payload: { changes: [{ replaces, payload }], why } };
      case 'reopened':
        return { kind: 'reopened', payload: { ending: replaces, bay: 1 + (which % 4), why } };
      case 'certify':
        return { kind: 'affirmed', payload: { step: 'certify#1' } };
      case 'withdrawn':
        return { kind: 'withdrawn', payload: { reason: 'the owner came for it' } };
      default:
        return { kind: 'noted', payload: { text: `${volts}` } };
    }
  }

  it('what is refused is refused in a sentence and changes nothing; what is taken replays to the same', () => {
    const taken = new Map<string, number>();
    fc.assert(
      fc.property(fc.array(wish, { minLength: 4, maxLength: 24 }), (wishes) => {
        const sheet = certified();
        for (const text of ['lid scratched', 'fetched at noon', 'paid']) sheet.put('noted', { text });
        let { job } = sheet;
        wishes.forEach((one, index) => {
          const entry = entryFor(job, one);
          const wasOpen = job.state.outcome === undefined;
          const before = JSON.stringify(job.state);
          try {
            const next = record(job, entry, sheet.now + index * 60_000, 'Ines', `key-${index}`);
            taken.set(entry.kind, (taken.get(entry.kind) ?? 0) + 1);
            if (entry.kind === 'corrected' || entry.kind === 'undone') expect(wasOpen).to.equal(true);
            if (entry.kind === 'amended' || entry.kind === 'reopened') expect(wasOpen).to.equal(false);
            job = next;
          } catch (error) {
            expect(error).to.be.instanceOf(RunSheetError);
            expect(JSON.stringify(job.state)).to.equal(before);
          }
        });
        expect(foldJob(job.log).state).to.deep.equal(job.state);
        expect(job.log.slice(1).reduce(append, foldJob(job.log.slice(0, 1))).state).to.deep.equal(job.state);
      }),
      { seed: 15, numRuns: 90 },
    );
    for (const kind of ['amended', 'reopened', 'corrected', 'undone'])
      expect(taken.get(kind), kind).to.be.greaterThan(1);
  });
});
