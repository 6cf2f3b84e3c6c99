import { expect } from 'chai';
import { RunSheetError } from '../runsheet/entries/errors.ts';
import { MORNING, TestJob } from '../test/testJob.ts';
import { bayChargeOf, bayVerdict } from './bayCharge.ts';

/** A first charge ready to begin. */
const ready = (): TestJob => new TestJob().soak();

const at = (sheet: TestJob): number => sheet.job.log.at(-1)?.at ?? 0;
const chargeOf = (sheet: TestJob) => bayChargeOf(sheet.job.state, at(sheet));
const verdictOf = (sheet: TestJob) => bayVerdict(sheet.job.state, 'charge#1', at(sheet));

function refusalOf(sheet: TestJob): string {
  try {
    chargeOf(sheet);
  } catch (error) {
    if (error instanceof RunSheetError) return error.message;
    throw error;
  }
  return 'none';
}

describe('a charge of the run sheet on a bay’s own supply', () => {
  it('is given as the sheet sets it: its current, its ceiling, its clock', () => {
    const { plan, step, begins } = chargeOf(ready());
    expect(step).to.equal('charge#1');
    const [stage] = plan.stages;
    expect(stage?.amps).to.be.closeTo(0.9, 0.01);
    expect(stage?.volts).to.be.within(14.4, 14.8);
    expect(plan.purpose).to.equal('first-charge');
    const entry = begins(24);
    expect(entry.kind).to.equal('chargeStarted');
    expect(entry.payload).to.include({ step: 'charge#1', currentA: stage?.amps });
  });

  it('is given to the battery that stood where its readings say, as long as no charge has lifted it', () => {
    const sheet = ready();
    const { restingV } = chargeOf(sheet);
    expect(restingV).to.be.within(12, 13);
    sheet.put('chargeStarted', { step: 'charge#1', currentA: 0.9 });
    sheet.wait(30).put('chargePaused', { step: 'charge#1', reason: 'stopped' });
    expect(chargeOf(sheet)).to.not.have.property('restingV');
  });

  it('goes on again where it was paused, with the warmth of that moment', () => {
    const sheet = ready().put('chargeStarted', { step: 'charge#1', currentA: 0.9 });
    expect(refusalOf(sheet)).to.include('A charger is on by the run sheet');
    sheet.wait(30).put('chargePaused', { step: 'charge#1', reason: 'stopped' });
    expect(chargeOf(sheet).begins(23.5)).to.deep.equal({
      kind: 'chargeResumed',
      payload: { step: 'charge#1', tempC: 23.5 },
    });
  });

  it('does not go on again where nothing reads its warmth', () => {
    const sheet = ready().put('chargeStarted', { step: 'charge#1', currentA: 0.9 });
    sheet.wait(30).put('chargePaused', { step: 'charge#1', reason: 'stopped' });
    expect(() => chargeOf(sheet).begins(undefined)).to.throw(RunSheetError, 'resume it by hand');
  });

  it('wakes as a wake goes: small at first, then as much as it is to take in the end', () => {
    const sheet = new TestJob('BK-A12/55', {}, MORNING, 'recover-agm').triage(4.2).route('supply-wake');
    sheet.affirm('supply-polarity');
    const { plan, setA, isAttended } = chargeOf(sheet);
    expect(plan.stages.map(({ amps }) => amps)).to.deep.equal([1.1, 2.75]);
    expect([setA, isAttended]).to.deep.equal([1.1, true]);
    expect(plan.stages.at(-1)?.exits.map(({ next }) => next)).to.deep.equal(['full', 'stop']);
  });

  it('pulses by itself', () => {
    const sheet = new TestJob('BK-A12/55', {}, MORNING, 'recover-agm').triage(12.1).route('pulse');
    const [stage] = chargeOf(sheet).plan.stages;
    expect(stage?.pulse).to.include({ spikeS: 1, offS: 1 });
  });

  it('is none where no charge is at hand', () => {
    expect(refusalOf(new TestJob())).to.include('no charge');
  });

  it('is told by each look what to do: on, off when hot, off when it was paused there', () => {
    const sheet = ready().put('chargeStarted', { step: 'charge#1', currentA: 0.9 });
    sheet.wait(15).read(13.2, 0.9);
    expect(verdictOf(sheet)).to.deep.equal({ go: 'on' });
    sheet.wait(15).put('chargeRead', {
      step: 'charge#1',
      values: { voltageV: 13.6, currentA: 0.9, tempC: 46 },
      source: 'meter',
    });
    expect(verdictOf(sheet)).to.include({ go: 'off', isHot: true });
    sheet.put('chargePaused', { step: 'charge#1', reason: 'hot' });
    expect(verdictOf(sheet)).to.include({ go: 'off', isHot: false });
  });

  it('a way’s charge is done when its time is over, whatever it reads', () => {
    const sheet = new TestJob('BK-A12/55', {}, MORNING, 'recover-agm').triage(11.4).route('slow-charge');
    sheet.put('chargeStarted', { step: 'slow#1', currentA: 2.75 });
    for (let hour = 4; hour <= 20; hour += 4)
      sheet.wait(240).read(Math.min(14.4, 12.9 + 0.14 * hour), 2.75 - 0.08 * hour, 25);
    const verdict = () => bayVerdict(sheet.job.state, 'slow#1', sheet.now);
    expect(verdict()).to.deep.equal({ go: 'on' });
    sheet.wait(245).read(14.4, 1.1, 25);
    expect(verdict()).to.deep.equal({ go: 'done' });
  });

  it('is done when its looks prove it full', () => {
    const sheet = ready().put('chargeStarted', { step: 'charge#1', currentA: 0.9 });
    sheet.wait(180).read(14.7, 0.3);
    for (let look = 0; look < 12; look++) sheet.wait(15).read(14.7, 0.06);
    expect(verdictOf(sheet)).to.deep.equal({ go: 'done' });
  });
});
