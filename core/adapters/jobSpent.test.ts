import { expect } from 'chai';
import { TestJob } from '../test/testJob.ts';
import { plannedFor, spentOn } from './jobSpent.ts';

const charging = (): TestJob =>
  new TestJob('BK-A12/55', {}, undefined, 'recover-agm')
    .triage(12)
    .route('slow-charge')
    .put('chargeStarted', {
      step: 'slow#1',
      currentA: 2.75,
    });

describe('what a job takes', () => {
  it('so far: the steps done and the looks taken', () => {
    const sheet = charging();
    const before = spentOn(sheet.job.state, sheet.now).handsMin;
    sheet.wait(60).read(13, 2.75, 22).wait(60).read(13.2, 2.75, 22);
    expect(spentOn(sheet.job.state, sheet.now).handsMin).to.equal(before + 2);
  });

  it('energy by the readings, from the mains', () => {
    const sheet = charging().wait(60).read(13, 2.75, 22).wait(60).read(13, 2.75, 22);
    expect(spentOn(sheet.job.state, sheet.now).mainsWh).to.be.closeTo((13 * 2.75 * 2) / 0.85, 0.1);
  });

  it('time on charge without its pauses', () => {
    const sheet = charging().wait(60).put('chargePaused', { step: 'slow#1', reason: 'stopped' });
    sheet.wait(600);
    expect(spentOn(sheet.job.state, sheet.now).bayH).to.be.closeTo(1, 1e-9);
  });

  it('by its run sheet more than so far, while steps lie ahead', () => {
    const sheet = charging();
    const plan = plannedFor(sheet.job.state);
    expect(plan.bayH).to.equal(24);
    expect(plan.handsMin).to.be.greaterThan(spentOn(sheet.job.state, sheet.now).handsMin + 12);
  });

  it('water that went in is counted, acid is not water', () => {
    const sheet = new TestJob('BK-F12/70', {}, undefined, 'recover-flooded').triage(12);
    sheet.route('water-back').put('skipped', { step: 'water-mass#1' }).measure('water-dose', { ml: 300 });
    expect(spentOn(sheet.job.state, sheet.now).waterMl).to.equal(300);
  });

  it('a commissioning is counted too', () => {
    const sheet = new TestJob().pressOn();
    expect(spentOn(sheet.job.state, sheet.now).handsMin).to.be.greaterThan(5);
    expect(plannedFor(sheet.job.state).bayH).to.be.greaterThan(3);
  });
});
