import { expect } from 'chai';
import { atHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import { outlineOf } from '@cork-ember/core/runsheet/log/outline.ts';
import { TestJob } from '@cork-ember/core/test/testJob.ts';
import { commonGates, looksDue, sameReadings, type AtBench } from './together.ts';

const bench = (sheet: TestJob): AtBench => ({
  job: outlineOf(sheet.job),
  hand: atHand(sheet.job.state, sheet.now),
});
const atSafety = (typeId: string): AtBench =>
  bench(new TestJob(typeId).affirm('identify').measure('label', {}));

describe('what a batch does together', () => {
  it('makes the place safe once for all that need the same', () => {
    const [gate, ...more] = commonGates([atSafety('LW-A12/9'), atSafety('TQ-F12/14'), atSafety('BK-S12/75')]);
    expect(more).to.deep.equal([]);
    expect(gate?.jobs.map(({ job }) => job.state.opened.type.id)).to.deep.equal(['LW-A12/9', 'TQ-F12/14']);
  });

  it('never answers for all what is asked of one battery', () => {
    const inspecting = (): AtBench =>
      bench(new TestJob().affirm('identify').measure('label', {}).affirm('safety'));
    expect(commonGates([inspecting(), inspecting()])).to.deep.equal([]);
    expect(commonGates([atSafety('LW-A12/9')])).to.deep.equal([]);
  });

  it('puts the same reading of several batteries into one column', () => {
    const soaked = (): AtBench => bench(new TestJob().fill().wait(180).affirm('strip'));
    const [column, ...more] = sameReadings([soaked(), soaked(), atSafety('LW-A12/9')]);
    expect(more).to.deep.equal([]);
    expect(column).to.include({ key: 'ocv-soak', kind: 'measure' });
    expect(column?.jobs).to.have.length(2);
  });

  it('puts the looks of a round into one column: those that are due, and those that soon will be', () => {
    const onCharge = (minutes: number): AtBench => {
      const sheet = new TestJob().soak();
      return bench(sheet.put('chargeStarted', { step: sheet.current.key, currentA: 0.9 }).wait(minutes));
    };
    const [due, soon, later] = [onCharge(60), onCharge(50), onCharge(5)];
    const now = due.hand?.dueAt ?? 0;
    const at = (one: AtBench, dueAt: number): AtBench => ({
      ...one,
      hand: one.hand && { ...one.hand, dueAt },
    });
    const round = [at(due, now), at(soon, now + 10 * 60_000), at(later, now + 55 * 60_000)];
    const [column] = looksDue(round, now);
    expect(column?.jobs).to.deep.equal(round.slice(0, 2));
    expect(looksDue(round.slice(1), now)).to.deep.equal([]);
    expect(looksDue([at(due, now), atSafety('LW-A12/9')], now)).to.deep.equal([]);
  });

  it('leaves out what may stay empty or is chosen', () => {
    const atLabel = (): AtBench => bench(new TestJob().affirm('identify'));
    expect(sameReadings([atLabel(), atLabel()])).to.deep.equal([]);
  });
});
