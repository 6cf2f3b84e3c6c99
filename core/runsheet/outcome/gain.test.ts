import { expect } from 'chai';
import { TestJob } from '../../test/testJob.ts';
import { gainsOf, gainWords, type Gain } from './gain.ts';

interface Found {
  readonly testerA?: number;
  readonly reserveMin?: number;
  readonly tempC?: number;
}

/** Charged and proven full, read by the tester, soaked long, charged and proven again. */
function treated({ testerA = 480, reserveMin, tempC = 21 }: Found = {}, beforeMin?: number): TestJob {
  const sheet = new TestJob('BK-A12/55', { gradeRest: 'h12' }, undefined, 'recover-agm').triage(11.6, {
    testerA: 210,
  });
  sheet
    .slowCharge(12.7)
    .wait(240)
    .put('evidenced', { reading: { kind: 'tester', amps: 380 } });
  if (beforeMin !== undefined)
    sheet.put('evidenced', { reading: { kind: 'reserve', amps: 25, minutes: beforeMin } });
  sheet.route('long-soak').put('routeLeft', { step: sheet.current.key, reason: 'soaked elsewhere' });
  return proven(sheet, testerA, reserveMin, tempC);
}

function proven(sheet: TestJob, testerA: number, reserveMin: number | undefined, tempC: number): TestJob {
  return sheet.prove({
    ocvV: 12.8,
    tempC,
    test: { method: 'tester', testerA },
    ...(reserveMin === undefined ? {} : { capacity: { method: 'reserve', reserveMin } }),
  });
}

/** Only charged: what the tester gained is charge. */
const onlyCharged = (): TestJob =>
  proven(
    new TestJob('BK-A12/55', { gradeRest: 'h12' }, undefined, 'recover-agm')
      .triage(11.6, { testerA: 210 })
      .slowCharge(),
    480,
    62,
    21,
  );

const gain = (sheet: TestJob, what: Gain['what']): Gain | undefined =>
  gainsOf(sheet.job.state).find((one) => one.what === what);

describe('what a recovery gained', () => {
  it('begins at the last charged, rested reading before it was treated, not at the flat one', () => {
    const cranking = gain(treated(), 'Cranking');
    // Both at 25 °C: 0.7 % a kelvin.
    expect(cranking?.before).to.be.closeTo(380 / (1 - 0.028), 0.5);
    expect(cranking?.gain).to.be.closeTo(100 / (1 - 0.028), 0.5);
    expect(gainWords(gain(treated(), 'Rested voltage') as Gain)).to.equal('11.60 to 12.80 V: +1.20 ± 0.01 V');
  });

  it('a battery that was only charged gained charge: of its cranking no gain is told', () => {
    const cranking = gain(onlyCharged(), 'Cranking');
    expect(cranking?.gain).to.equal(undefined);
    expect(gainWords(cranking as Gain)).to.include('no gain can be told');
  });

  it('mistake: a gain in cranking is never reported as one in capacity', () => {
    const sheet = treated();
    expect(gain(sheet, 'Capacity')).to.equal(undefined);
    expect(gainsOf(sheet.job.state).map(({ what }) => what)).to.deep.equal([
      'Rested voltage',
      'Cranking',
      'Resistance',
    ]);
  });

  it('capacity counted before and after is a gain of its own', () => {
    const capacity = gain(treated({ reserveMin: 62 }, 40), 'Capacity');
    expect(capacity?.before).to.be.lessThan(capacity?.after ?? 0);
    expect(gainWords(capacity as Gain)).to.match(/^\d+ to \d+ % of the rating: \+\d+ ± \d/);
    expect(gain(treated({ reserveMin: 62 }), 'Capacity')?.gain).to.equal(undefined);
  });

  it('resistance falls as cranking rises', () => {
    const resistance = gain(treated(), 'Resistance');
    expect(resistance?.gain).to.be.lessThan(0);
    expect(gainWords(resistance as Gain)).to.include('−');
  });

  it('the same battery read colder has gained nothing by it', () => {
    const cold = gain(treated({ testerA: 357, tempC: 12 }), 'Cranking');
    expect(Math.abs(cold?.gain ?? 99)).to.be.below(3);
  });

  it('is nothing before the proof', () => {
    const sheet = new TestJob('BK-A12/55', {}, undefined, 'recover-agm').triage(11.6);
    expect(gainsOf(sheet.job.state)).to.deep.equal([]);
  });
});
