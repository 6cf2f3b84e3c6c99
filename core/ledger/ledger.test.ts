import { expect } from 'chai';
import { USUAL_COSTS } from '../advice/worth.ts';
import { TestJob } from '../test/testJob.ts';
import { findingOf, type Finding } from './finding.ts';
import { wayRecords, wilson } from './ways.ts';

const COSTS = { ...USUAL_COSTS, pricePerKwh: 0.3 };

/** Slowly charged, proved and signed. */
const recovered = (testerA = 480, reserveMin?: number): TestJob =>
  new TestJob('BK-A12/55', { gradeRest: 'h12' }, undefined, 'recover-agm')
    .triage(11.6, { testerA: 210 })
    .slowCharge(12.9)
    .signedOff(testerA, reserveMin);

const found = (sheet: TestJob): Finding => {
  const finding = findingOf(sheet.job.state);
  if (!finding) throw new Error('the job is under way');
  return finding;
};

describe('what a job leaves in the ledger', () => {
  it('nothing while it is under way', () => {
    const sheet = new TestJob('BK-A12/55', {}, undefined, 'recover-agm').triage(11.6);
    expect(findingOf(sheet.job.state)).to.equal(undefined);
  });

  it('what was measured, by which way, and what it took', () => {
    const finding = found(recovered(480, 80));
    expect(finding).to.include({ outcome: 'recovered', ocvV: 12.85, construction: 'agm' });
    // As at 25 °C, so that years compare.
    expect(finding.crankingA).to.be.closeTo(480 / (1 - 0.028), 1e-6);
    expect(finding.grade).to.be.oneOf(['A', 'B']);
    expect(finding.routes.map(({ id }) => id)).to.deep.equal(['slow-charge']);
    expect(finding.milliohm).to.be.closeTo((2550 / 480) * (1 - 0.028), 1e-9);
    expect(finding.capacityShare).to.be.within(0.5, 1);
    expect(finding.spent.handsMin).to.be.greaterThan(5);
    expect(finding.spent.bayH).to.be.closeTo(2 * 16.1, 0.2);
  });

  it('capacity that was not counted is not there, and the grade says so', () => {
    const finding = found(recovered());
    expect(finding).not.to.have.property('capacityShare');
    expect(finding.grade).to.equal('B');
  });

  it('one sent to the recycler is R, by no way', () => {
    const sheet = new TestJob('BK-A12/55', {}, undefined, 'recover-agm').triage(11.6).route('retire');
    sheet.measure('retire-why', { why: 'notWorth' });
    while (sheet.job.state.outcome === undefined) sheet.affirm(sheet.current.stepId).wait(1);
    expect(found(sheet)).to.deep.include({ grade: 'R', outcome: 'retired', routes: [] });
  });

  it('a commissioned one leaves its rested voltage, and no grade', () => {
    const sheet = new TestJob();
    sheet.soak().charge().test(12.84, 10.9).put('decided', { step: sheet.current.key, verdict: 'pass' });
    while (sheet.job.state.outcome === undefined) sheet.affirm(sheet.current.stepId).wait(2);
    const finding = found(sheet);
    expect(finding).to.include({ outcome: 'certified', ocvV: 12.84 });
    expect(finding).not.to.have.any.keys('grade', 'capacityShare');
  });
});

describe('which ways bring batteries back here', () => {
  const base = found(recovered());
  const came = (way: string, grade: Finding['grade'], more: Partial<Finding> = {}): Finding => ({
    ...base,
    ...(grade === undefined ? {} : { grade }),
    routes: [{ id: way, title: way }],
    ...more,
  });

  it('counts what came back and what was good, the most tried first', () => {
    const [soak, pulse] = wayRecords(
      [
        came('long-soak', 'B'),
        came('pulse', 'R', { outcome: 'retired' }),
        came('long-soak', 'C'),
        came('long-soak', 'R'),
      ],
      COSTS,
    );
    expect(soak).to.include({ tried: 3, back: 2, good: 1 });
    expect(pulse).to.include({ tried: 1, back: 0, good: 0 });
  });

  it('a flooded one and an AGM are different things; of two ways the last brought it back, and water alone none', () => {
    const both = came('pulse', 'B', {
      routes: [
        { id: 'water-back', title: 'Water' },
        { id: 'pulse', title: 'Pulse' },
        { id: 'long-soak', title: 'Soak' },
      ],
    });
    const records = wayRecords([both, came('pulse', 'B', { construction: 'flooded' })], COSTS);
    expect(records.map(({ way, construction }) => `${way.id} ${construction}`)).to.have.members([
      'pulse agm',
      'long-soak agm',
      'pulse flooded',
    ]);
    const backOf = (id: string): number | undefined =>
      records.find(({ way, construction }) => way.id === id && construction === 'agm')?.back;
    expect([backOf('pulse'), backOf('long-soak')]).to.deep.equal([0, 1]);
  });

  it('the middle of the capacities counted, not of those that were not', () => {
    const records = wayRecords(
      [0.6, 0.9, 0.7]
        .map((capacityShare) => came('pulse', 'B', { capacityShare }))
        .concat(came('pulse', 'B')),
      COSTS,
    );
    expect(records[0]?.capacityShare).to.equal(0.7);
  });

  it('one that was withdrawn says nothing of the way', () => {
    const { grade: _grade, ...ungraded } = came('pulse', 'B', { outcome: 'withdrawn' });
    expect(wayRecords([ungraded], COSTS)).to.deep.equal([]);
  });

  // Brown, Cai & DasGupta 2001, Statistical Science 16, give the interval's closed form; these by it, z = 1.2816.
  for (const [hits, tries, low, high] of [
    [0, 10, 0, 0.141],
    [5, 10, 0.312, 0.688],
    [10, 10, 0.859, 1],
    [0, 0, 0, 1],
  ] as const)
    it(`${hits} of ${tries} lies between ${low} and ${high}`, () => {
      const [below, above] = wilson(hits, tries);
      expect(below).to.be.closeTo(low, 2e-3);
      expect(above).to.be.closeTo(high, 2e-3);
    });
});
