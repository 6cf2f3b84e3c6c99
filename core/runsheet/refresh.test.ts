import { expect } from 'chai';
import { TestJob } from '../test/testJob.ts';
import { contextOf } from './state/context.ts';
import { judgeRefresh } from './verdict/refreshVerdict.ts';

/** Up to its charge standing ready, as it stood. */
function onBench(typeId: string, ocvV: number): TestJob {
  const sheet = new TestJob(typeId, {}, undefined, 'refresh');
  sheet.affirm('refresh-take');
  sheet.affirm(sheet.current.stepId);
  if (sheet.current.stepId === 'open-cells') {
    sheet.measure('open-cells', { caps: 'caps' });
    sheet.measure(
      'levels-cells',
      sheet.eachCell('level', () => 'low'),
    );
    sheet.measure('density-before', { ...sheet.eachCell('density', () => 1.24), acidC: 20 });
    sheet.measure('water-before', { added: 'none' });
  }
  return sheet.measure('ocv-soak', { ocvV, tempC: 20 });
}

const ids = ({ job }: TestJob): readonly string[] => job.state.steps.map(({ stepId }) => stepId);

/** From its charger off to where it is judged. */
function rested(sheet: TestJob, ocvV: number, densities?: (cell: number) => number): TestJob {
  sheet.wait(5).affirm('disconnect');
  if (densities) {
    sheet.leaveOut('refresh-rock');
    sheet.measure('refresh-density', { ...sheet.eachCell('density', densities), acidC: 25 });
    sheet.measure('refresh-to-line', { added: 'none' }).affirm('refresh-caps');
  }
  return sheet.wait(60).measure('test-ocv', { ocvV, tempC: 21 });
}

describe('refresh', () => {
  it('a sealed one: taken off its shelf, charged to full, rested, tagged and put back', () => {
    const sheet = rested(onBench('LW-A12/9', 12.55).charge(), 12.9);
    sheet.put('decided', { step: 'verdict#1', verdict: 'pass' }).affirm('put-back', 'charged');
    expect(sheet.job.state.outcome).to.equal('charged');
    expect(ids(sheet)).not.to.include.members(['open-cells', 'refresh-density']);
  });

  it('one that stood where sulfate stays is held for a day before it goes back; the others are not', () => {
    const low = (after: number): TestJob => {
      const sheet = rested(onBench('LW-A12/9', 12.3).charge(), 12.95);
      sheet.wait(24 * 60).measure('hold-ocv', { ocvV: 12.86, tempC: 20 });
      return sheet.wait(24 * 60).measure('hold-read', { ocvV: after, tempC: 20 });
    };
    const judged = (sheet: TestJob) => judgeRefresh(contextOf(sheet.job.state, 1));
    expect(judged(low(12.85)).verdict).to.equal('pass');
    // A second charge mends no leak.
    const leaks = judged(low(12.6));
    expect(leaks.verdict).to.equal('reject');
    expect(leaks.reasons.find(({ isMet }) => !isMet)?.sentence).to.include(
      'It did not hold, an internal leak',
    );
    const sound = rested(onBench('LW-A12/9', 12.55).charge(), 12.9);
    expect(sound.current.stepId).to.equal('verdict');
  });

  it('one begun before there was a hold goes on as it began', () => {
    const old = new TestJob('LW-A12/9', {}, undefined, 'refresh', { edition: 4 });
    expect(ids(old)).not.to.include('hold-read');
  });

  it('a flooded one is opened first, and its acid read and mixed after', () => {
    const sheet = rested(onBench('TQ-F12/14', 12.4).charge(), 12.7, () => 1.27);
    expect(sheet.current.stepId).to.equal('verdict');
    const order = ['levels-cells', 'density-before', 'water-before', 'charge', 'refresh-density', 'verdict'];
    expect(ids(sheet).filter((id) => order.includes(id))).to.deep.equal(order);
  });

  it('a large one is not rocked', () => {
    expect(ids(new TestJob('BK-F12/70', {}, undefined, 'refresh'))).not.to.include('refresh-rock');
    expect(ids(new TestJob('TQ-F12/14', {}, undefined, 'refresh'))).to.include('refresh-rock');
  });

  it('charges again what is not proven full, and lets nobody sign it full', () => {
    const sheet = rested(onBench('LW-A12/9', 12.55).charge(false), 12.9);
    expect(() => sheet.put('decided', { step: 'verdict#1', verdict: 'pass' })).to.throw('“repeat”');
    sheet.put('decided', { step: 'verdict#1', verdict: 'repeat' });
    expect(sheet.current.key).to.equal('charge#2');
  });

  it('says of cells that stand apart once charged that one is ill, and keeps it off the shelf', () => {
    const sheet = rested(onBench('TQ-F12/14', 12.4).charge(), 12.65, (cell) => (cell === 3 ? 1.19 : 1.27));
    const { reasons, verdict } = judgeRefresh(contextOf(sheet.job.state, 1));
    expect(verdict).to.equal('repeat');
    expect(reasons.find(({ isMet }) => !isMet)?.sentence).to.equal(
      'Its cells differ by 0.080 g/cm³; up to 0.050 passes.',
    );
  });

  it('a cracked case goes to the recycler, one that stood flat to recovery', () => {
    const cracked = new TestJob('LW-A12/9', {}, undefined, 'refresh');
    cracked.put('denied', { step: 'refresh-take#1', denial: 'damaged' });
    expect(cracked.job.state.outcome).to.equal('retired');
    const flat = new TestJob('LW-A12/9', {}, undefined, 'refresh').affirm('refresh-take', 'refresh-safe');
    flat.put('denied', { step: 'ocv-soak#1', denial: 'stood-flat' });
    expect(flat.job.state.outcome).to.equal('withdrawn');
  });
});
