import { expect } from 'chai';
import { atHand } from './plan/atHand.ts';
import { RunSheetError } from './entries/errors.ts';
import { forecast } from './plan/forecast.ts';
import { judgeCommissioning, proofOfFull } from './verdict/commissioningVerdict.ts';
import { contextOf } from './state/context.ts';
import { MORNING, TestJob } from '../test/testJob.ts';

const MINUTE = 60_000;

function refusal(action: () => unknown): RunSheetError {
  try {
    action();
  } catch (error) {
    if (error instanceof RunSheetError) return error;
    throw error;
  }
  throw new Error('was accepted');
}

describe('commissioning an AGM from its own pack', () => {
  it('goes from the box to a signed certificate', () => {
    const sheet = new TestJob().soak().charge().test(12.84).decide('pass').affirm('hand-over', 'certify');
    expect(sheet.job.state.outcome).to.equal('certified');
    expect(refusal(() => sheet.put('affirmed', { step: 'certify#1' }))).to.have.property('problem', 'closed');
  });

  it('wrong pack: holds until the right code is read, and cannot be passed over', () => {
    const sheet = new TestJob().checkIn().put('observed', { step: 'pack-code#1', code: 'P-12' });
    expect(sheet.current).to.include({
      status: 'held',
      why: 'Pack code P-12 is not for this battery; it takes P-09. Fetch the right pack.',
    });
    expect(
      refusal(() => sheet.put('overridden', { step: 'pack-code#1', reason: 'it looks the same' })).problem,
    ).to.equal('held');
    expect(refusal(() => sheet.affirm('pack-code')).problem).to.equal('bad-entry');
    sheet.put('observed', { step: 'pack-code#1', code: ' p 09 ' });
    expect(sheet.current.stepId).to.equal('weigh-dry');
  });

  it('broken foil: ends with a return to the supplier', () => {
    const sheet = new TestJob()
      .affirm('identify')
      .measure('label', {})
      .affirm('safety')
      .put('denied', { step: 'inspect#1', denial: 'foil-broken' });
    expect(sheet.job.state).to.include({ outcome: 'returned' });
    expect(sheet.job.state.outcomeNote).to.include('do not commission');
  });

  it('a denied safety gate waits and opens again', () => {
    const sheet = new TestJob()
      .affirm('identify')
      .measure('label', {})
      .put('denied', { step: 'safety#1', denial: 'not-safe' });
    expect(sheet.current.status).to.equal('held');
    expect(sheet.affirm('safety').current.stepId).to.equal('inspect');
  });

  it('a silent chamber is named and looked at again', () => {
    const sheet = new TestJob().pressOn().wait(2).chambers('bubbles', [4]);
    expect(sheet.current.why).to.equal(
      'Chamber 4: silent. Knock lightly on pack and case, wait a minute, look again.',
    );
    expect(sheet.chambers('bubbles').current.stepId).to.equal('empty');
  });

  it('takes three chambers on 6 V, and no other number', () => {
    const sheet = new TestJob('LW-A6/4').pressOn().wait(2);
    expect(
      refusal(() => sheet.put('observed', { step: 'bubbles#1', chambers: [true, true] })).message,
    ).to.include('all 3');
    expect(sheet.chambers('bubbles').current.stepId).to.equal('empty');
  });

  it('pack lifted early: refused with the time left, or recorded with a reason', () => {
    const sheet = new TestJob().pressOn().wait(2).chambers('bubbles').wait(12).chambers('empty').wait(20);
    expect(refusal(() => sheet.affirm('pack-off'))).to.include({
      problem: 'too-early',
      message: '“Lift the acid pack off” is not open yet; “Leave the pack on” is running: 10 min to go.',
    });
    expect(
      refusal(() => sheet.put('overridden', { step: 'pack-dwell#1', reason: 'late' })).message,
    ).to.include('at least 8');
    sheet.put('overridden', { step: 'pack-dwell#1', reason: 'Pack is bone dry, ferry leaves' });
    expect(sheet.job.state.steps.find((step) => step.stepId === 'pack-dwell')).to.include({
      status: 'overridden',
      reason: 'Pack is bone dry, ferry leaves',
    });
    expect(sheet.affirm('pack-off').current.stepId).to.equal('soak');
  });

  it('counts the short school from pressing on and the long one from seen empty', () => {
    const short = new TestJob('LW-A12/9', { packDwell: 'short' })
      .pressOn()
      .wait(2)
      .chambers('bubbles')
      .wait(12)
      .chambers('empty');
    expect(atHand(short.job.state, short.now)?.until).to.equal(MORNING + 20 * MINUTE);
    const long = new TestJob().pressOn().wait(2).chambers('bubbles').wait(12).chambers('empty');
    expect(atHand(long.job.state, long.now)?.until).to.equal(MORNING + 44 * MINUTE);
  });

  it('filled at four with no time to charge: held at the pack, with the reason on record if done all the same', () => {
    const sheet = new TestJob('LW-A12/9', {}, Date.parse('2026-03-10T16:10:00Z'));
    const held = refusal(() => sheet.pressOn());
    expect(held.message).to.include(
      'Filled at 16:10 it cannot be charged before the shop closes at 18:00; fill it Wed 08:00',
    );
    expect(sheet.current.stepId).to.equal('pack-on');
    sheet.put('overridden', { step: 'pack-on#1', reason: 'Staying late to finish' }).affirm('pack-on');
    expect(sheet.current.stepId).to.equal('bubbles');
  });

  it('a short fill shows in the mass', () => {
    const sheet = new TestJob()
      .checkIn()
      .put('observed', { step: 'pack-code#1', code: 'P-09' })
      .measure('weigh-dry', { dryG: 2910 });
    sheet
      .affirm('foil-off', 'pack-on')
      .wait(2)
      .chambers('bubbles')
      .wait(12)
      .chambers('empty')
      .wait(30)
      .affirm('pack-off');
    sheet.measure('weigh-filled', { filledG: 2910 + 627 });
    expect(sheet.current.why).to.include('627 g went in, 649 g were due (-3.5 %');
    expect(sheet.measure('weigh-filled', { filledG: 2910 + 647 }).current.stepId).to.equal('soak');
  });

  it('leaves the second weighing out when the first was', () => {
    const sheet = new TestJob().fill();
    expect(sheet.job.state.steps.find((step) => step.stepId === 'weigh-filled')?.status).to.equal('skipped');
  });

  it('a warm battery waits, a 10.6 V one is suspect', () => {
    const sheet = new TestJob().fill().wait(180).affirm('strip');
    expect(sheet.measure('ocv-soak', { ocvV: 12.7, tempC: 43 }).current.why).to.include('too warm to charge');
    expect(sheet.measure('ocv-soak', { ocvV: 10.6, tempC: 30 }).current.why).to.include(
      'filled short or dead',
    );
    expect(sheet.measure('ocv-soak', { ocvV: 12.7, tempC: 30 }).current.stepId).to.equal('charge');
  });

  it('refuses a charge current above the first charge’s own', () => {
    const sheet = new TestJob().soak();
    expect(refusal(() => sheet.put('chargeStarted', { step: 'charge#1', currentA: 1.5 })).message).to.equal(
      'Charge current: 1.5 A is outside 0.09 to 0.90 A for this first charge.',
    );
  });

  it('charged hot: off above 50 °C, on again only below 40, and the lost time is added', () => {
    const sheet = new TestJob().soak().put('chargeStarted', { step: 'charge#1', currentA: 0.9 });
    const chargeEnd = () =>
      forecast(sheet.job.state, sheet.now).segments.findLast((segment) => segment.kind === 'charge')?.to ?? 0;
    const before = chargeEnd();
    sheet.wait(60).read(14.2, 0.9, 52);
    expect(atHand(sheet.job.state, sheet.now)).to.include({ phase: 'tooHot', title: 'Charger off now' });
    sheet.put('chargePaused', { step: 'charge#1', reason: 'hot' }).wait(50);
    expect(refusal(() => sheet.put('chargeResumed', { step: 'charge#1', tempC: 42 })).message).to.include(
      'below 40 °C',
    );
    sheet.put('chargeResumed', { step: 'charge#1', tempC: 38 });
    expect(chargeEnd()).to.equal(before + 50 * MINUTE);
  });

  it('does not end a charge before its time unless its readings prove it full', () => {
    const sheet = new TestJob().soak().put('chargeStarted', { step: 'charge#1', currentA: 0.9 }).wait(60);
    expect(refusal(() => sheet.put('chargeEnded', { step: 'charge#1', fullSignal: false })).problem).to.equal(
      'too-early',
    );
    sheet.wait(120).read(14.7, 0.08).wait(60).read(14.7, 0.06).wait(60).read(14.7, 0.05);
    expect(atHand(sheet.job.state, sheet.now)?.phase).to.equal('complete');
    expect(sheet.put('chargeEnded', { step: 'charge#1', fullSignal: false }).current.stepId).to.equal(
      'gas-wait',
    );
  });

  it('three times too hot ends it: a sound battery cools once', () => {
    const sheet = new TestJob().soak().put('chargeStarted', { step: 'charge#1', currentA: 0.9 });
    for (let pause = 1; pause <= 3; pause++) {
      sheet.wait(20).read(14, 0.9, 46);
      sheet.put('chargePaused', { step: 'charge#1', reason: 'hot' }).wait(60);
      if (pause < 3) sheet.put('chargeResumed', { step: 'charge#1', tempC: 38 });
    }
    expect(refusal(() => sheet.put('chargeResumed', { step: 'charge#1', tempC: 30 })).message).to.include(
      'Too hot for the third time',
    );
    sheet.put('chargeEnded', { step: 'charge#1', fullSignal: false });
    expect(proofOfFull(contextOf(sheet.job.state, 1)).sentence).to.include('the charge was stopped');
  });

  it('a first charge has its stop rules armed: a dead cell ends it, and its verdict is reject', () => {
    const sheet = new TestJob().soak().put('chargeStarted', { step: 'charge#1', currentA: 0.9 });
    sheet.wait(60).read(10.6, 0.9, 24);
    expect(sheet.current.why).to.match(
      /^One cell gives nothing.* Saw 10\.60 V with 0\.9 Ah in; expected about 12\.\d\d V/,
    );
    expect(
      refusal(() => sheet.put('chargeEnded', { step: 'charge#1', fullSignal: false })).message,
    ).to.include('Record first that the charger is off');
    sheet.put('chargePaused', { step: 'charge#1', reason: 'stopped' });
    sheet.put('chargeEnded', { step: 'charge#1', fullSignal: false }).test(10.7, 4);
    expect(judgeCommissioning(contextOf(sheet.job.state, 1)).verdict).to.equal('reject');
  });

  it('charges longer at a lower current', () => {
    const sheet = new TestJob().soak().put('chargeStarted', { step: 'charge#1', currentA: 0.45 }).wait(300);
    expect(atHand(sheet.job.state, sheet.now)?.phase).to.equal('running');
  });

  it('surface charge: the test does not open before the rest is over, and the rest cannot be overridden', () => {
    const sheet = new TestJob().soak().charge().wait(5).affirm('disconnect', 'lid').wait(20);
    expect(refusal(() => sheet.measure('test-ocv', { ocvV: 13.1, tempC: 22 })).problem).to.equal('too-early');
    expect(
      refusal(() => sheet.put('overridden', { step: 'rest#1', reason: 'customer is waiting' })).problem,
    ).to.equal('held');
  });

  it('12.4 V sends it round again without opening the lid, twice at most, then rejects', () => {
    const sheet = new TestJob().soak();
    for (const round of [1, 2]) {
      sheet.charge().test(12.4);
      expect(sheet.current.round).to.equal(round);
      expect(refusal(() => sheet.decide('pass')).message).to.include('repeat');
      sheet.decide('repeat');
    }
    expect(sheet.job.state.steps.filter((step) => step.stepId === 'lid')).to.have.length(1);
    sheet.charge().test(12.4);
    expect(refusal(() => sheet.decide('repeat')).problem).to.equal('held');
    expect(sheet.decide('reject').job.state.outcome).to.equal('rejected');
  });

  it('12.65 V without proof of full does not pass', () => {
    const sheet = new TestJob().soak().charge(false).test(12.65);
    const { verdict, reasons } = judgeCommissioning(contextOf(sheet.job.state, 1));
    expect(verdict).to.equal('repeat');
    expect(reasons.map((reason) => reason.isMet)).to.deep.equal([true, false, true]);
    expect(refusal(() => sheet.decide('pass')).problem).to.equal('held');
  });

  it('lets a person be stricter than the readings', () => {
    expect(new TestJob().soak().charge().test(12.84).decide('reject').job.state.outcome).to.equal('rejected');
  });

  it('judges a conductance tester against 80 % of the rating', () => {
    const sheet = new TestJob()
      .soak()
      .charge()
      .wait(5)
      .affirm('disconnect', 'lid')
      .wait(60)
      .measure('test-ocv', { ocvV: 12.84, tempC: 22 });
    expect(refusal(() => sheet.measure('test-load', { method: 'tester' })).message).to.include(
      'a number is needed',
    );
    sheet.measure('test-load', { method: 'tester', testerA: 100 });
    expect(judgeCommissioning(contextOf(sheet.job.state, 1)).verdict).to.equal('repeat');
  });

  it('uses label values entered for this battery in place of the catalogue’s', () => {
    const sheet = new TestJob().affirm('identify').measure('label', { chargeCurrentA: 1.2 });
    expect(contextOf(sheet.job.state, 1).threshold('chargeCurrentA')).to.include({
      value: 1.2,
      source: 'label',
    });
  });

  it('refuses readings that cannot be, in one sentence with the range', () => {
    const sheet = new TestJob().fill().wait(180).affirm('strip');
    expect(refusal(() => sheet.measure('ocv-soak', { ocvV: -12, tempC: 27 })).message).to.include(
      '0 to 18 V',
    );
    expect(refusal(() => sheet.measure('ocv-soak', { ocvV: 131, tempC: 27 })).message).to.include('13.10 V?');
    expect(refusal(() => sheet.measure('ocv-soak', { ocvV: 12.7, tempC: 27, ph: 7 })).message).to.include(
      'does not ask for “ph”',
    );
  });

  it('lays the lid by the house rule', () => {
    const ids = (rule: 'loose' | 'pressedBefore') =>
      new TestJob('LW-A12/9', { lidWhileCharging: rule }).job.state.steps.map((step) => step.stepId);
    expect(ids('loose')).to.include.members(['strip', 'lid']).and.not.include('lid-before');
    expect(ids('pressedBefore')).to.include('lid-before').and.not.include.members(['strip', 'lid']);
  });

  it('is not withdrawn while the charger is on', () => {
    const sheet = new TestJob().soak().put('chargeStarted', { step: 'charge#1', currentA: 0.9 });
    expect(refusal(() => sheet.put('withdrawn', { reason: 'owner changed his mind' })).message).to.include(
      'charger is on',
    );
  });
});
