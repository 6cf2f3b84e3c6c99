import { expect } from 'chai';
import { candidate } from '../test/candidate.ts';
import { AGM_80 } from '../test/modelBench.ts';
import { TestJob } from '../test/testJob.ts';
import { Belief } from './belief.ts';
import { capacityTestA } from '../grading/grade.ts';
import { courseOf } from '../adapters/fromJob.ts';
import type { Reading } from '../observation/readings.ts';
import { dischargeAt } from '../observation/quickTests.ts';
import { shownOf } from '../observation/shown.ts';
import type { Setting } from '../candidate/traits.ts';

const setting: Setting = {
  rating: AGM_80,
  history: { construction: 'agm', ageYears: 4, flatMonths: 3, complaint: 'parked' },
  tempC: 25,
};
/** Well charged, a fifth of it worn away. */
const charged = candidate({ charge: 0.85, left: 0.8 });

describe('a capacity test while it runs', () => {
  const found = shownOf(charged, setting);
  const truth = found.discharge(25);
  const at = (minute: number) => ({ minute, volts: dischargeAt(truth, minute)[0] });
  const look = (minute: number, before?: number): Reading => ({
    kind: 'drain',
    amps: 25,
    ...at(minute),
    ...(before === undefined ? {} : { before: at(before) }),
  });

  it('is extrapolated: every look narrows it, and what it comes to lies within', () => {
    const belief = new Belief(setting, 150, 8);
    belief.observe({ kind: 'ocv', volts: found.ocvV(), isRested: true });
    const widths: number[] = [];
    for (const [part, before] of [[0.2], [0.6, 0.2], [0.9, 0.6]] as const) {
      belief.observe(look(part * truth.endMin, before && before * truth.endMin));
      belief.refine(1);
      const { low, high } = belief.reserve(25);
      expect(low, `at ${part}`).to.be.lessThan(truth.endMin);
      expect(high, `at ${part}`).to.be.greaterThan(truth.endMin);
      widths.push(high - low);
    }
    expect(widths).to.deep.equal([...widths].sort((a, b) => b - a));
    expect(widths.at(-1)).to.be.lessThan(0.35 * truth.endMin);
  });

  it('a discharge falls all the way, faster at its end, and off a cliff past it', () => {
    const middle = dischargeAt(truth, truth.endMin / 2);
    const end = dischargeAt(truth, truth.endMin);
    expect(end[0]).to.be.closeTo(10.5, 0.01);
    expect(middle[0]).to.be.greaterThan(end[0]);
    expect(end[1]).to.be.greaterThan(2 * middle[1]);
    expect(dischargeAt(truth, truth.endMin * 3)[0]).to.be.lessThan(0);
  });

  it('slow, it draws the twentieth part for longer than at 25 A by more than the currents’ ratio', () => {
    expect(capacityTestA('slow', AGM_80)).to.equal(4);
    expect(capacityTestA('reserve', AGM_80)).to.equal(25);
    expect(found.reserveMin(4)).to.be.greaterThan((25 / 4) * truth.endMin);
  });

  it('its looks are one test, whatever time lies between them, and its result is learnt from', () => {
    const sheet = new TestJob('BK-A12/55', {}, undefined, 'recover-agm').triage(12.0);
    sheet.route('slow-charge').put('chargeStarted', { step: 'slow#1', currentA: 2.75 });
    sheet.wait(1440).put('chargeEnded', { step: 'slow#1', fullSignal: false });
    sheet.wait(6).affirm('slow-clips').wait(90).measure('after-charge', { ocvV: 12.8, tempC: 21 });
    sheet
      .route('prove', 'as far as it goes')
      .affirm('prove-off')
      .wait(24 * 60)
      .measure('prove-ocv', { ocvV: 12.8, tempC: 25 })
      .put('skipped', { step: 'prove-load#2' });
    for (const minute of [30, 60])
      sheet
        .wait(30)
        .put('evidenced', { reading: { kind: 'drain', amps: 25, minute, volts: 12 - minute / 200 } });
    sheet.wait(25).measure('prove-capacity', { method: 'reserve', reserveMin: 85 });
    const { readings } = courseOf(sheet.job.state);
    const drains = readings.filter(({ kind }) => kind === 'drain');
    expect(drains).to.have.length(2);
    expect(new Set(drains.map(({ stage }) => stage))).to.have.length(1);
    expect(drains[1]).to.deep.include({ before: { minute: 30, volts: 11.85 } });
    expect(readings.find(({ kind }) => kind === 'reserve')).to.include({
      amps: 25,
      minutes: 85,
      stage: drains[0]?.stage,
    });
  });
});
