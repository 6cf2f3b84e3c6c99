import { expect } from 'chai';
import { chargerOf } from '../../adapters/bayRoom.ts';
import { GENERIC_SUPPLY } from '../../devices/genericProfiles.ts';
import { TestJob } from '../../test/testJob.ts';
import { atHand } from './atHand.ts';
import { forecast, type Knot } from './forecast.ts';

const HOUR = 3_600_000;
const LOOK = 'Read volts, amps, warmth';
const OUTFIT = { bay: 1, source: GENERIC_SUPPLY, hasCutOff: true };

/** On charge by its bay's own supply, or by one somebody set. */
function charging(isOfBay: boolean): TestJob {
  const charger = isOfBay ? chargerOf(OUTFIT) : undefined;
  return new TestJob(undefined, { bayAtNight: 'cutOff' })
    .soak()
    .put('chargeStarted', { step: 'charge#1', currentA: 0.9, dueMin: 600, ...(charger ? { charger } : {}) });
}

const nowOf = ({ job }: TestJob): number => job.log.at(-1)?.at ?? 0;
const looksOf = ({ job }: TestJob, now: number): Knot[] =>
  forecast(job.state, now).knots.filter(({ title, isDone }) => title === LOOK && !isDone);
const look = (sheet: TestJob, minutes: number): TestJob =>
  sheet.wait(minutes).put('chargeRead', {
    step: 'charge#1',
    values: { voltageV: 13, currentA: 0.9, tempC: 22 },
    source: 'Supply of bay 1',
  });

describe('a charge that its bay sees to', () => {
  it('asks for no looks and for nobody to switch it off, by night either', () => {
    const [alone, byHand] = [charging(true), charging(false)];
    const now = nowOf(alone);
    expect(looksOf(byHand, now)).to.have.length.above(4);
    expect(looksOf(alone, now)).to.have.length(0);
    expect(atHand(byHand.job.state, now)?.title).to.equal(LOOK);
    const hand = atHand(alone.job.state, now);
    expect(hand?.title).to.equal('Charged by its bay, and off by itself');
    expect(hand?.until).to.equal(now + 10 * HOUR);
    const charges = (sheet: TestJob) =>
      forecast(sheet.job.state, now).segments.filter(({ kind }) => kind === 'charge');
    expect(charges(alone)).to.deep.equal(charges(byHand));
    const wait = ({ title }: { title: string }): boolean => title === 'Wait for the shop to open';
    const follows = forecast(alone.job.state, now).segments.find(({ stepId }) => stepId === 'gas-wait');
    expect(follows?.from).to.equal(now + 10 * HOUR);
    expect(forecast(byHand.job.state, now).segments.some(wait)).to.equal(true);
  });

  it('that has not looked for two turns of its own is looked at by hand again', () => {
    const sheet = charging(true);
    look(sheet, 15);
    const seen = nowOf(sheet);
    expect(looksOf(sheet, seen + HOUR / 2)).to.have.length(0);
    expect(looksOf(sheet, seen + HOUR / 2 + 1)).to.have.length.above(4);
    expect(atHand(sheet.job.state, seen + HOUR)?.title).to.equal(LOOK);
  });

  it('is anybody’s again once it is paused', () => {
    const sheet = charging(true).wait(20).put('chargePaused', { step: 'charge#1', reason: 'stopped' });
    expect(atHand(sheet.job.state, nowOf(sheet))?.title).to.equal('Resume the charge');
    expect(looksOf(sheet, nowOf(sheet))).to.have.length.above(4);
  });
});
