/** Mistakes of handbook 9 that concern commissioning, each caught. Others stand beside what catches them. */
import { expect } from 'chai';
import { judgeCommissioning } from './verdict/commissioningVerdict.ts';
import { RunSheetError } from './entries/errors.ts';
import { contextOf } from './state/context.ts';
import { definitionOf } from './state/sheet.ts';
import { EDITION } from './entries/events.ts';
import { procedureById } from './procedures/procedures.ts';
import { TestJob } from '../test/testJob.ts';

const refusal = (act: () => unknown): string => {
  try {
    act();
  } catch (error) {
    if (error instanceof RunSheetError) return error.message;
    throw error;
  }
  return '';
};

describe('mistakes the run sheet catches', () => {
  it('wrong pack', () => {
    const sheet = new TestJob().checkIn().put('observed', { step: 'pack-code#1', code: 'p-12' });
    expect(sheet.current.why).to.include('Pack code P-12 is not for this battery; it takes P-09');
    expect(refusal(() => sheet.affirm('foil-off'))).to.not.equal('');
  });

  it('pack lifted early', () => {
    const sheet = new TestJob().pressOn().wait(2).chambers('bubbles').wait(12).chambers('empty').wait(5);
    expect(refusal(() => sheet.affirm('pack-off'))).to.not.equal('');
    expect(sheet.current.stepId).to.equal('pack-dwell');
  });

  it('hand-filling an AGM', () => {
    const steps = new TestJob().job.state.steps.map(({ stepId }) => stepId);
    expect(steps).not.to.include.members(['fill']);
    const sheet = new TestJob().checkIn().put('denied', { step: 'pack-code#1', denial: 'pack-missing' });
    expect(sheet.job.state.outcome).to.equal('returned');
    expect(sheet.job.state.outcomeNote).to.include('do not commission');
  });

  it('lid pressed before charge', () => {
    const loose = new TestJob().job.state.steps.map(({ stepId }) => stepId);
    expect(loose.indexOf('lid')).to.be.above(loose.indexOf('charge'));
  });

  it('charger on before clips: the clips are claimed before the charge can be recorded', () => {
    const sheet = new TestJob().soak();
    const step = contextOf(sheet.job.state, 1);
    expect(step.chargeSetting().current.value).to.equal(0.9);
    expect(refusal(() => sheet.affirm('disconnect'))).to.not.equal('');
  });

  it('judged on surface charge', () => {
    const sheet = new TestJob().soak().charge().wait(5).affirm('disconnect', 'lid').wait(10);
    expect(refusal(() => sheet.measure('test-ocv', { ocvV: 13.1, tempC: 25 }))).to.not.equal('');
    expect(refusal(() => sheet.put('overridden', { step: 'rest#1', reason: 'no time to wait' }))).to.include(
      'cannot be passed over',
    );
  });

  it('judged flat, and 12.2 V called “80 %”: a floor without proof of full never passes', () => {
    const flat = new TestJob().soak().charge(false).test(12.2);
    const { verdict, reasons } = judgeCommissioning(contextOf(flat.job.state, 1));
    expect(verdict).to.equal('repeat');
    expect(reasons.map(({ isMet }) => isMet)).to.deep.equal([false, false, true]);
  });

  it('sold at 80 %: a soaked battery is not ready, and nothing certifies it before charge and test', () => {
    const sheet = new TestJob().fill().wait(130);
    expect(refusal(() => sheet.affirm('certify'))).to.not.equal('');
  });

  it('charged hot', () => {
    const sheet = new TestJob().soak().put('chargeStarted', { step: 'charge#1', currentA: 0.9 }).wait(60);
    sheet.read(14.2, 0.9, 51);
    expect(sheet.current.why).to.include('charger off now');
    sheet.put('chargePaused', { step: 'charge#1', reason: 'hot' }).wait(20);
    expect(refusal(() => sheet.put('chargeResumed', { step: 'charge#1', tempC: 44 }))).to.include('40 °C');
  });

  it('filled at four o’clock with no time to charge', () => {
    const late = new TestJob('LW-A12/9', {}, Date.parse('2026-03-10T16:00:00Z')).checkIn();
    late.put('observed', { step: 'pack-code#1', code: 'P-09' }).put('skipped', { step: 'weigh-dry#1' });
    late.affirm('foil-off');
    expect(refusal(() => late.affirm('pack-on'))).to.include('cannot be charged before the shop closes');
  });

  it('CCA read under the wrong standard: the field names the one on the label', () => {
    const sheet = new TestJob().soak().charge().wait(5).affirm('disconnect', 'lid').wait(60);
    sheet.measure('test-ocv', { ocvV: 12.84, tempC: 22 });
    const { state } = sheet.job;
    expect(state.opened.type.cranking?.standard).to.equal('EN');
    sheet.measure('test-load', { method: 'tester', testerA: 90 });
    const { reasons } = judgeCommissioning(contextOf(sheet.job.state, 1));
    expect(reasons[2]?.sentence).to.include('71 % of the rating; 80 % passes');
    expect(reasons[2]?.isMet).to.equal(false);
  });

  it('clips reversed, post over-tightened, vent hose pinched: each has its answer where it is fitted', () => {
    const fitted = (edition = EDITION): TestJob =>
      new TestJob('LW-A12/9', {}, undefined, undefined, { fitting: true, edition })
        .soak()
        .charge()
        .test(12.84)
        .decide('pass')
        .affirm('hand-over');
    for (const [denial, words, edition] of [
      ['clips-reversed', 'negative first', EDITION],
      ['post-loose', 'Over-tightened', EDITION],
      // Older logs asked a sealed battery for its hose too, and still replay.
      ['hose-pinched', 'closed vent bursts', 2],
    ] as const)
      expect(fitted(edition).put('denied', { step: 'fit#1', denial }).current.why).to.include(words);
    expect(() => fitted().put('denied', { step: 'fit#1', denial: 'hose-pinched' })).to.throw();
  });

  it('a sealed battery has no vent hose to affirm, an open one has; no charger stands under fitting', () => {
    for (const [id, hasHose] of [
      ['agm-from-pack', false],
      ['agm-activated', false],
      ['flooded-by-hand', true],
    ] as const) {
      const fit = procedureById(id).steps.find((step) => step.id === 'fit');
      if (fit?.kind !== 'gate') throw new Error(`${id} is fitted nowhere`);
      expect(
        fit.claims.some((claim) => claim.startsWith('Vent hose')),
        id,
      ).to.equal(hasHose);
      expect(fit.cautions).to.include('vehicleLeads').and.not.to.include('clipsFirst');
    }
  });

  it('forgot the monthly recharge: the shelf step names when, by the house’s rule and the cells', () => {
    const words = (typeId: string, shelfRecharge: 'predicted' | 'monthly' | 'sixMonthly'): string => {
      const { state } = new TestJob(typeId, { shelfRecharge }, undefined, 'display-refresh').job;
      const shelf = state.steps.find(({ stepId }) => stepId === 'tag-date');
      return shelf ? definitionOf(state, shelf).detail(contextOf(state, 1)) : '';
    };
    expect(words('BK-S12/75', 'predicted')).to.include('when it rests at 12.60 V or after three months');
    expect(words('BK-S12/75', 'monthly')).to.include('every month');
    expect(words('LW-A6/12', 'predicted')).to.include('6.30 V');
  });

  it('a crank dip below 9.6 V is held until it is read again or answered for', () => {
    const sheet = new TestJob('LW-A12/9', {}, undefined, undefined, { fitting: true });
    sheet
      .soak()
      .charge()
      .test(12.84)
      .decide('pass')
      .affirm('hand-over', 'fit')
      .measure('crank', { crankV: 8.9 });
    expect(sheet.current.why).to.include('under 9.6 V');
    sheet.measure('crank', { crankV: 10.2 }).affirm('certify');
    expect(sheet.job.state.outcome).to.equal('certified');
  });
});
