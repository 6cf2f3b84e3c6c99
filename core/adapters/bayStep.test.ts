import { expect } from 'chai';
import type { BatteryType } from '../battery/types.ts';
import { CATALOGUE } from '../demo/catalogue.ts';
import { GENERIC_LOAD } from '../devices/genericProfiles.ts';
import { RunSheetError } from '../runsheet/entries/errors.ts';
import { judge } from '../runsheet/verdict/proof.ts';
import { contextOf } from '../runsheet/state/context.ts';
import { TestJob } from '../test/testJob.ts';
import { bayStepOf, isStepAt } from './bayStep.ts';

const OUTFIT = { bay: 1, source: GENERIC_LOAD, hasCutOff: true };

const RATED = CATALOGUE.find(({ id }) => id === 'TQ-A12/20') as (typeof CATALOGUE)[number];
const { cranking: _none, ...UNRATED } = RATED;

/** Proved up to where it is loaded, or its resistance is read. */
function atLoad(type: BatteryType): TestJob {
  const sheet = new TestJob(type, {}, undefined, 'recover-agm')
    .triage(12.85)
    .route('prove', 'it came charged');
  return sheet.affirm('prove-off').wait(1445).measure('prove-ocv', { ocvV: 12.85, tempC: 21 });
}

const stepOf = (sheet: TestJob, mostA = 30) =>
  bayStepOf(sheet.job.state, sheet.now, {
    ...OUTFIT,
    source: { ...GENERIC_LOAD, ranges: { amps: { least: 0, most: mostA, resolution: 0.001 } } },
  });

describe('resistance by a bay’s own load', () => {
  it('is a step from a fifth of an hour’s current to an hour’s, as far as the load draws it', () => {
    const { plan, restingV } = stepOf(atLoad(UNRATED));
    expect(plan).to.deep.equal({ firstA: 4, secondA: 20, cells: 6 });
    expect(restingV).to.equal(12.85);
    expect(stepOf(atLoad(UNRATED), 10).plan.secondA).to.equal(10);
    expect(() => stepOf(atLoad(UNRATED), 3)).to.throw(RunSheetError, 'takes 4 A');
  });

  it('stands on the sheet as a tester’s would, and is spoken of in the verdict', () => {
    const sheet = atLoad(UNRATED);
    const entry = stepOf(sheet).measured(0.0123, 'Load of bay 1');
    expect(entry.payload).to.deep.include({ source: 'Load of bay 1, by a step of current' });
    if (entry.kind === 'measured') sheet.put('measured', entry.payload);
    const words = judge(contextOf(sheet.job.state, 1)).reasons.map(({ sentence }) => sentence);
    expect(words.join(' ')).to.include('Resistance 12.3 mΩ');
  });

  it('is asked of none that has a cranking rating, and at no other step', () => {
    const rated = atLoad(RATED);
    expect(isStepAt(rated.job.state, rated.current.stepId)).to.equal(false);
    expect(() => stepOf(rated)).to.throw(RunSheetError, 'asks for no resistance');
    expect(() => stepOf(new TestJob(UNRATED, {}, undefined, 'recover-agm'))).to.throw(RunSheetError);
  });
});
