import { expect } from 'chai';
import { done } from '../belief/work.ts';
import type { Lesson } from '../learning/lesson.ts';
import { foldJob } from '../runsheet/log/fold.ts';
import { TestJob } from '../test/testJob.ts';
import { lessonOf, timedIn } from './lessonFromJob.ts';

const brought = (): TestJob =>
  new TestJob('BK-A12/55', { gradeRest: 'h12' }, undefined, 'recover-agm').triage(11.6, { testerA: 210 });

const taught = ({ job }: TestJob): Lesson => {
  const lesson = done(lessonOf(job.log, []));
  if (!lesson) throw new Error('it teaches nothing');
  return lesson;
};

describe('what an ended recovery teaches', function () {
  this.timeout(120_000);

  it('nothing while it is under way, and nothing where it was commissioned', () => {
    expect(done(lessonOf(brought().job.log, []))).to.equal(undefined);
    const sheet = new TestJob();
    sheet.soak().charge().test(12.84, 10.9).put('decided', { step: sheet.current.key, verdict: 'pass' });
    while (sheet.job.state.outcome === undefined) sheet.affirm(sheet.current.stepId).wait(2);
    expect(done(lessonOf(sheet.job.log, []))).to.equal(undefined);
  });

  it('what it was, what its way was expected to do and did, and what the tester showed where its capacity was counted', () => {
    const lesson = taught(brought().slowCharge(12.9).signedOff(480, 95));
    expect(lesson).to.include({ isWithdrawn: false });
    const sum = Object.values(lesson.causes).reduce((all, odds) => all + odds, 0);
    expect(sum).to.be.closeTo(1, 1e-9);
    // It came back whole: no cell of it was shorted or open.
    expect(lesson.causes['shorted-cell'] + lesson.causes['open-cell']).to.be.lessThan(0.02);
    expect(lesson.attempts).to.have.length(1);
    expect(lesson.attempts[0]).to.include({ way: 'slow-charge', isBack: true });
    expect(lesson.attempts[0]?.expected).to.be.within(0.3, 0.99);
    expect(lesson.tester).to.have.length(1);
    expect(Math.abs(lesson.tester[0] ?? 1)).to.be.lessThan(0.4);
  });

  it('one that goes to the recycler after a way was not brought back by it; without a capacity nothing is said of the tester', () => {
    const sheet = brought().slowCharge(12.1).route('retire');
    sheet.measure('retire-why', { why: 'notWorth' });
    while (sheet.job.state.outcome === undefined) sheet.affirm(sheet.current.stepId).wait(1);
    const lesson = taught(sheet);
    expect(lesson.attempts.map(({ way, isBack }) => ({ way, isBack }))).to.deep.equal([
      { way: 'slow-charge', isBack: false },
    ]);
    expect(lesson.tester).to.deep.equal([]);
    expect(taught(sheet), 'the same record teaches the same').to.deep.equal(lesson);
  });
});

describe('minutes of hands in a record', () => {
  it('are those from one entry of a person to the next, in one go; what somebody did elsewhere meanwhile counts as elsewhere', () => {
    const sheet = new TestJob('BK-A12/55', {}, undefined, 'recover-agm').triage(11.6);
    // Two minutes from each entry to the next.
    const log = sheet.job.log.map((event, index) => ({ ...event, at: event.at + index * 120_000 }));
    const { state } = foldJob(log);
    const all = timedIn(log, state, []);
    expect(all.length).to.be.greaterThan(3);
    const [first] = all;
    const entry = log.findIndex(
      (event) => 'step' in event.payload && event.payload.step.startsWith(first?.step ?? '-'),
    );
    const [before, at] = [log[entry - 1]?.at ?? 0, log[entry]?.at ?? 0];
    expect(first?.minutes).to.be.closeTo((at - before) / 60_000, 1e-9);
    const { by } = log[entry] ?? { by: '' };
    const middle = (before + at) / 2;
    const [interrupted] = timedIn(log, state, [{ by, at: middle }]);
    expect(interrupted?.minutes).to.be.closeTo((at - middle) / 60_000, 1e-9);
    expect(timedIn(log, state, [{ by: 'somebody else', at: middle }])[0]).to.deep.equal(first);
  });
});
