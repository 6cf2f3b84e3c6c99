import { expect } from 'chai';
import { judgeCommissioning, proofOfFull } from './commissioningVerdict.ts';
import { contextOf } from '../state/context.ts';
import type { Charger } from '../../charge/charger.ts';
import { TestJob } from '../../test/testJob.ts';

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

  describe('the charger’s own full signal', () => {
    const automatic = {
      id: 'auto',
      name: 'Small automatic',
      kind: 'automatic',
      leastA: 0.5,
      mostA: 0.9,
      mostV: 14.7,
      nominalV: [12],
      modes: ['agm'],
      startV: 8,
      efficiency: 0.85,
      because: 'Has a lamp.',
    } as const satisfies Charger;
    const supply = {
      ...automatic,
      id: 'psu',
      name: 'Bench supply',
      kind: 'programmable',
      mostV: 16,
    } as const;
    const on = (charger?: Charger): TestJob =>
      new TestJob().soak().put('chargeStarted', {
        step: 'charge#1',
        currentA: 0.9,
        ...(charger ? { charger } : {}),
      });
    const ends = (sheet: TestJob): TestJob =>
      sheet.put('chargeEnded', { step: 'charge#1', fullSignal: true });

    it('is proof where a look beside it does not speak against it', () => {
      const sheet = ends(on(automatic).wait(150).read(14.4, 0.1)).test(12.8);
      expect(proofOfFull(contextOf(sheet.job.state, 1))).to.deep.equal({
        isMet: true,
        sentence:
          'Proof of full: the charger gave its full signal, and the readings do not speak against it.',
      });
      expect(judged(sheet).verdict).to.equal('pass');
    });

    for (const [name, sheet, sentence] of [
      [
        'from a supply that has none',
        () => on(supply).wait(150).read(14.4, 0.1),
        'Bench supply has no full signal',
      ],
      ['from a charger that is not on record', () => on().wait(150).read(14.4, 0.1), 'not on record'],
      ['after a minute', () => on(automatic).wait(1).read(14.4, 0.1), 'It shows full after 1 min'],
      ['without a look beside it', () => on(automatic).wait(150), 'Read volts, amps and warmth first'],
      [
        'against a look that shows 12.7 V',
        () => on(automatic).wait(150).read(12.7, 0.9),
        'the battery stands at 12.70 V on charge: no full one does. Look again in half an hour.',
      ],
      [
        'against a look at which it still takes its current',
        () => on(automatic).wait(150).read(14.4, 0.7),
        '0.70 A still go in, 8 % of capacity',
      ],
    ] as const)
      it(`is not taken ${name}`, () => {
        expect(() => ends(sheet())).to.throw(sentence);
      });

    it('of a log of the first edition stands as it was taken', () => {
      const old = new TestJob('LW-A12/9', {}, undefined, undefined, { edition: 1 }).soak();
      old.put('chargeStarted', { step: 'charge#1', currentA: 0.9 }).wait(90);
      expect(ends(old).current.stepId).to.equal('gas-wait');
    });
  });

  for (const [name, volts, amps] of [
    ['a first charge stalled at 12.7 V and 0.9 A for two hours', 12.7, 0.9],
    ['one held at 14.7 V with a current that is no tail', 14.7, 0.3],
  ] as const)
    it(`${name} is not proven full and is not passed`, () => {
      const sheet = new TestJob().soak().put('chargeStarted', { step: 'charge#1', currentA: 0.9 }).wait(300);
      for (let look = 0; look < 4; look++) sheet.wait(60).read(volts, amps);
      if (sheet.current.status === 'held') sheet.put('chargePaused', { step: 'charge#1', reason: 'stopped' });
      sheet.put('chargeEnded', { step: 'charge#1', fullSignal: false }).test(12.84);
      expect(proofOfFull(contextOf(sheet.job.state, 1)).isMet).to.equal(false);
      expect(judged(sheet).verdict).not.to.equal('pass');
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
    expect(sentence).to.include('half of about 144 A SAE, by rule of thumb what 130 A EN are, for 15 s');
  });
});
