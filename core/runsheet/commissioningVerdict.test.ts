import { expect } from 'chai';
import { judgeCommissioning, proofOfFull } from './commissioningVerdict.ts';
import { contextOf } from './state.ts';
import { TestJob } from '../test/testJob.ts';

function judged(sheet: TestJob) {
  return judgeCommissioning(contextOf(sheet.job.state, sheet.current.round));
}

describe('the verdict', () => {
  for (const [ocvV, loadV, verdict, met] of [
    [12.84, 10.6, 'pass', [true, true, true]],
    [12.6, 9.6, 'pass', [true, true, true]],
    [12.59, 10.6, 'repeat', [false, true, true]],
    [12.84, 9.59, 'repeat', [true, true, false]],
    [12.3, 8.1, 'repeat', [false, true, false]],
  ] as const)
    it(`of ${ocvV} V at rest and ${loadV} V under load is ${verdict}`, () => {
      const result = judged(new TestJob().soak().charge().test(ocvV, loadV));
      expect(result.verdict).to.equal(verdict);
      expect(result.reasons.map((reason) => reason.isMet)).to.deep.equal(met);
    });

  it('takes the charger’s own full signal as proof', () => {
    const sheet = new TestJob().soak().put('chargeStarted', { step: 'charge#1', currentA: 0.9 }).wait(90);
    sheet.put('chargeEnded', { step: 'charge#1', fullSignal: true }).test(12.8);
    expect(proofOfFull(contextOf(sheet.job.state, 1)).sentence).to.include('full signal');
    expect(judged(sheet).verdict).to.equal('pass');
  });

  it('does not carry the proof of one charge over to the next', () => {
    const sheet = new TestJob().soak().charge(true).test(12.4).decide('repeat').charge(false).test(12.8);
    expect(judged(sheet).reasons.map((reason) => reason.isMet)).to.deep.equal([true, false, true]);
  });

  it('asks less of the load in the cold', () => {
    const warm = new TestJob().soak().charge().wait(5).affirm('disconnect', 'lid').wait(60);
    warm.measure('test-ocv', { ocvV: 12.84, tempC: 4 }).measure('test-load', { method: 'load', loadV: 9.3 });
    expect(judged(warm).verdict).to.equal('pass');
    expect(judged(warm).reasons[2]?.sentence).to.include('9.30 V passes').and.include('at 4 °C');
  });

  it('halves every voltage for 6 V', () => {
    const sheet = new TestJob('LW-A6/12')
      .fill()
      .wait(180)
      .affirm('strip')
      .measure('ocv-soak', { ocvV: 6.35, tempC: 25 });
    sheet.charge().wait(5).affirm('disconnect', 'lid').wait(60);
    sheet
      .measure('test-ocv', { ocvV: 6.31, tempC: 25 })
      .measure('test-load', { method: 'load', loadV: 4.85 });
    expect(judged(sheet).verdict).to.equal('pass');
  });

  it('names standard and basis of the load, so that a rating is not read under another', () => {
    const sentence = judged(new TestJob().soak().charge().test(12.84)).reasons[2]?.sentence;
    expect(sentence).to.include('half of 130 A (EN) for 15 s');
  });
});
