/** Discharge and charge again: clock, recharge, gain and what ends it. */
import { expect } from 'chai';
import { courseOf } from '../adapters/fromJob.ts';
import { brought, end, start } from '../test/broughtIn.ts';
import type { TestJob } from '../test/testJob.ts';
import { handsOf } from './plan/hands.ts';
import { atHand } from './plan/atHand.ts';

const DAY = 24 * 60;
const MINUTE = 60_000;

describe('cycles', () => {
  /** Drawn down to where its recharge begins. */
  const drawn = (sheet: TestJob): TestJob =>
    sheet.route('cycle').affirm('cycle-start').wait(300).measure('cycle-end', { minutes: 300, endV: 11.5 });
  /** Charged again and retested. */
  const retested = (sheet: TestJob, testerA: number): TestJob => {
    end(start(sheet, 2.75).wait(24 * 60))
      .wait(6)
      .affirm('cycle-charge-clips')
      .wait(240);
    return sheet.measure('cycle-read', { ocvV: 12.8, testerA, tempC: 25 });
  };
  const cycled = (sheet: TestJob, testerA: number): TestJob => retested(drawn(sheet), testerA);

  it('want somebody to stay, call every half hour, and end after three', () => {
    const sheet = brought('BK-A12/55').triage(12.7, { testerA: 200, tempC: 25 });
    for (const testerA of [220, 240, 260]) {
      sheet.route('cycle').affirm('cycle-start');
      expect(handsOf(sheet.job.state, sheet.now)[0]?.at).to.equal(sheet.now + 30 * MINUTE);
      expect(handsOf(sheet.job.state, sheet.now + 45 * MINUTE)[0]?.urgency).to.equal('overdue');
      retested(sheet.wait(300).measure('cycle-end', { minutes: 300, endV: 11.5 }), testerA);
    }
    expect(() => sheet.route('cycle')).to.throw('three times');
  });

  it('a discharge is followed at once by its recharge, a rest and a retest', () => {
    const sheet = drawn(brought('BK-A12/55').triage(12.7));
    expect(sheet.current.stepId).to.equal('cycle-charge');
    end(start(sheet, 2.75).wait(24 * 60))
      .wait(6)
      .affirm('cycle-charge-clips');
    expect(sheet.current.stepId).to.equal('cycle-rest');
    expect(() => sheet.wait(120).measure('cycle-read', { ocvV: 12.8, testerA: 300, tempC: 25 })).to.throw(
      '“Test it again” is not open yet',
    );
  });

  it('left before its recharge, neither a second discharge nor a proof follows: charge it first', () => {
    const sheet = drawn(brought('BK-A12/55').triage(12.7));
    sheet.put('routeLeft', { step: sheet.current.key, reason: 'the supply is away' });
    for (const route of ['cycle', 'prove'])
      expect(() => sheet.route(route, 'it must go today')).to.throw('not charged since: charge it first');
    expect(sheet.slowCharge(12.8).route('cycle').current.stepId).to.equal('cycle-start');
  });

  it('drawn down by a capacity test and left, it is not proven again before a charge', () => {
    const sheet = brought('BK-A12/55').triage(12.2).slowCharge();
    sheet.route('prove').affirm('prove-off').wait(DAY).measure('prove-ocv', { ocvV: 12.8, tempC: 21 });
    sheet
      .leaveOut('prove-load')
      .wait(60 * 15)
      .measure('prove-capacity', { method: 'slow', drawnAh: 40 });
    sheet.put('routeLeft', { step: sheet.current.key, reason: 'the bay is needed' });
    expect(() => sheet.route('prove', 'it was full before')).to.throw('charge it first');
  });

  it('a gain below three per cent ends it, a target met wants a reason', () => {
    const sheet = brought('BK-A12/55').triage(12.7, { testerA: 300, tempC: 25 });
    expect(() => cycled(sheet, 305).route('cycle')).to.throw('gained 1.7 %, below 3 %');
    const good = brought('BK-A12/55').triage(12.7, { testerA: 300, tempC: 25 });
    expect(() => cycled(good, 500).route('cycle')).to.throw('the target is met');
  });

  it('looks on its clock are no test of capacity to the belief', () => {
    const sheet = brought('BK-A12/55').triage(12.7).route('cycle').affirm('cycle-start').wait(30);
    sheet.put('evidenced', { reading: { kind: 'drain', amps: 5.5, minute: 30, volts: 12.4 } });
    expect(handsOf(sheet.job.state, sheet.now)[0]?.at).to.equal(sheet.now + 30 * MINUTE);
    sheet.wait(30).put('evidenced', { reading: { kind: 'drain', amps: 5.5, minute: 60, volts: 11.5 } });
    expect(atHand(sheet.job.state, sheet.now)?.title).to.equal('Load off: the discharge is at its end');
    expect(courseOf(sheet.job.state).readings.some(({ kind }) => kind === 'drain')).to.equal(false);
  });
});
