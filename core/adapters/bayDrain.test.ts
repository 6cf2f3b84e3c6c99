import { expect } from 'chai';
import { GENERIC_LOAD } from '../devices/genericProfiles.ts';
import { RunSheetError } from '../runsheet/entries/errors.ts';
import { runningTest } from '../runsheet/plan/capacityClock.ts';
import { TestJob } from '../test/testJob.ts';
import { bayChargeOf } from './bayCharge.ts';
import { bayDrainOf, type BayDrain } from './bayDrain.ts';
import type { BayOutfit } from './bayRoom.ts';

const OUTFIT: BayOutfit = { bay: 1, source: GENERIC_LOAD, hasCutOff: true };
const SMALL: BayOutfit = {
  ...OUTFIT,
  source: { ...GENERIC_LOAD, ranges: { amps: { least: 0, most: 5, resolution: 0.001 } } },
};

const sheet = (): TestJob => new TestJob('BK-A12/55', {}, undefined, 'recover-agm').toCapacity();
const drainOf = (job: TestJob, outfit = OUTFIT, method?: 'slow' | 'tenth' | 'reserve'): BayDrain =>
  bayDrainOf(job.job.state, job.now, outfit, method);
const refusal = (work: () => unknown): string => {
  try {
    work();
    return 'none';
  } catch (error) {
    if (error instanceof RunSheetError) return error.message;
    throw error;
  }
};

describe('a discharge of the run sheet on a bay’s own load', () => {
  it('is the usual way of its size, down to its end, on the battery that stood where its readings say', () => {
    const drain = drainOf(sheet());
    expect(drain.plan).to.deep.equal({ amps: 25, endV: 10.5, mostS: (55 * 1.5 * 3600) / 25, cells: 6 });
    expect(drain).to.include({ step: 'prove-capacity#1', restingV: 12.85 });
    expect(drainOf(sheet(), OUTFIT, 'tenth').plan.amps).to.be.closeTo(5.5, 1e-9);
  });

  it('is one the load can draw', () => {
    expect(drainOf(sheet(), SMALL).plan.amps).to.be.closeTo(2.75, 1e-9);
    expect(refusal(() => drainOf(sheet(), SMALL, 'reserve'))).to.equal(
      'The load of this bay draws 5 A at most: it runs slow.',
    );
  });

  it('puts its looks and what it came to on the sheet, as hands do', () => {
    const job = sheet();
    const drain = drainOf(job);
    const put = (entry: ReturnType<BayDrain['look']>): unknown => {
      if (entry.kind === 'evidenced') return job.put('evidenced', entry.payload);
      return entry.kind === 'measured' ? job.put('measured', entry.payload) : undefined;
    };
    put(drain.look(0, 12.61));
    job.wait(60);
    put(drain.look(25, 11.9));
    expect(runningTest(job.job.state, 25, job.now)).to.deep.equal({
      minutes: 60,
      lastV: 11.9,
      lastMinute: 60,
    });
    expect(
      refusal(() => drainOf(job)),
      'one that was broken off',
    ).to.include('drawn down already');
    job.wait(58);
    put(drain.measured(49.2, 10.5, 'Load of bay 1'));
    const measured = job.job.state.steps.find(({ key }) => key === 'prove-capacity#1');
    expect(measured?.values).to.include({ method: 'reserve', reserveMin: 118.08 });
    expect(job.current.stepId, 'it is charged again').to.equal('prove-charge');
    const again = bayChargeOf(job.job.state, job.now);
    expect(again, 'it stands nowhere near where it did').to.not.have.property('restingV');
  });

  it('is none at any other step', () => {
    expect(refusal(() => drainOf(new TestJob()))).to.include('no charge, and no discharge');
  });
});
