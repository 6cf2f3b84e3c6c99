import { expect } from 'chai';
import { TestJob } from '../test/testJob.ts';
import { gainsOf, gainWords, type Gain } from './gain.ts';

interface Proof {
  readonly testerA?: number;
  readonly reserveMin?: number;
  readonly tempC?: number;
}

/** Found flat at 11.6 V with 210 A on the tester, and proven. */
function proven({ testerA = 480, reserveMin, tempC = 21 }: Proof = {}, before?: number): TestJob {
  const sheet = new TestJob('BK-A12/55', { gradeRest: 'h12' }, undefined, 'recover-agm').triage(11.6, {
    testerA: 210,
  });
  if (before !== undefined)
    sheet.put('evidenced', { reading: { kind: 'reserve', amps: 25, minutes: before } });
  sheet.route('prove').affirm('prove-off').wait(720).measure('prove-ocv', { ocvV: 12.8, tempC });
  if (reserveMin === undefined) sheet.put('skipped', { step: sheet.current.key });
  else sheet.measure('prove-capacity', { method: 'reserve', reserveMin });
  return sheet.measure('prove-load', { method: 'tester', testerA });
}

const gain = (sheet: TestJob, what: Gain['what']): Gain | undefined =>
  gainsOf(sheet.job.state).find((one) => one.what === what);

describe('what a recovery gained', () => {
  it('is told figure by figure, with the instrument’s error at both ends', () => {
    const cranking = gain(proven(), 'Cranking');
    expect(cranking?.gain).to.equal(270);
    expect(cranking?.uncertain).to.be.closeTo(Math.hypot(210 * 0.03, 480 * 0.03), 1e-9);
    expect(gainWords(gain(proven(), 'Rested voltage') as Gain)).to.equal('11.60 to 12.80 V: +1.20 ± 0.01');
  });

  it('mistake: a gain in cranking is never reported as one in capacity', () => {
    const sheet = proven();
    expect(gain(sheet, 'Capacity')).to.equal(undefined);
    expect(gainsOf(sheet.job.state).map(({ what }) => what)).to.deep.equal([
      'Rested voltage',
      'Cranking',
      'Resistance',
    ]);
  });

  it('capacity measured only afterwards is no gain, and says so', () => {
    const capacity = gain(proven({ reserveMin: 62 }), 'Capacity');
    expect(capacity?.gain).to.equal(undefined);
    expect(gainWords(capacity as Gain)).to.match(
      /^\d+ % of the rating; not measured before, so no gain can be told$/,
    );
  });

  it('capacity counted before and after is a gain of its own', () => {
    const capacity = gain(proven({ reserveMin: 62 }, 40), 'Capacity');
    expect(capacity?.before).to.be.lessThan(capacity?.after ?? 0);
    expect(gainWords(capacity as Gain)).to.match(/^\d+ to \d+ % of the rating: \+\d+ ± \d/);
  });

  it('resistance falls as cranking rises', () => {
    const resistance = gain(proven(), 'Resistance');
    expect(resistance?.before).to.be.closeTo(2550 / 210, 1e-9);
    expect(resistance?.gain).to.be.lessThan(0);
    expect(gainWords(resistance as Gain)).to.include('−');
  });

  it('cranking read at another warmth compares badly, and says so', () => {
    expect(gain(proven({ tempC: 12 }), 'Cranking')?.but).to.equal('read 9 K apart');
    expect(gain(proven(), 'Cranking')?.but).to.match(/flat before: the charge counts/);
  });

  it('is nothing before the proof', () => {
    const sheet = new TestJob('BK-A12/55', {}, undefined, 'recover-agm').triage(11.6);
    expect(gainsOf(sheet.job.state)).to.deep.equal([]);
  });
});
