import { expect } from 'chai';
import { planIntake, planText } from './intakePlan.ts';
import { TestJob } from '../test/testJob.ts';

const at = (clock: string): number => Date.parse(`2026-03-10T${clock}:00Z`);

function opened(promised: string, dateCode = '2026-01') {
  const { payload } = { payload: new TestJob().job.state.opened };
  return { ...payload, battery: { ...payload.battery, dateCode }, promisedAt: Date.parse(promised) };
}

describe('intake plan', () => {
  it('taken in at eight it is filled and charged the same day, tested the next', () => {
    const plan = planIntake(opened('2026-03-11T17:30:00Z'), at('08:00'));
    expect(plan.risks).to.deep.equal([]);
    expect(planText(plan)).to.match(/^Fill 08:0\d, charge 11:0\d–18:1\d, ready Wed 09:\d\d$/);
  });

  it('taken in at ten past four it says why not today, and when instead', () => {
    const plan = planIntake(opened('2026-03-12T18:00:00Z'), at('16:00'));
    expect(plan.risks.map((risk) => risk.sentence)).to.deep.equal([
      'Filled at 16:08 it cannot be charged before the shop closes at 18:00; fill it Wed 08:00.',
    ]);
    expect(planText(plan)).to.match(/^Fill Wed 08:00, charge Wed 10:5\d–18:\d\d, ready Thu 09:\d\d$/);
  });

  it('says how late a promise would be missed', () => {
    const plan = planIntake(opened('2026-03-10T12:00:00Z'), at('08:00'));
    expect(plan.risks[0]?.sentence).to.match(
      /^Ready Wed 09:\d\d at the earliest, 21 h \d\d after the promise\.$/,
    );
  });

  it('warns of old stock', () => {
    const plan = planIntake(opened('2026-03-12T12:00:00Z', '2024-03'), at('08:00'));
    expect(plan.risks.map((risk) => risk.sentence).join()).to.include('24 months old: expect about 65 %');
  });
});
