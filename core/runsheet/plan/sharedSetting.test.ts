import { expect } from 'chai';
import { CHARGERS } from '../../charge/chargers.ts';
import type { Charger } from '../../charge/charger.ts';
import { TestJob } from '../../test/testJob.ts';
import { sharedSettingRefusal } from './sharedSetting.ts';

const [supply] = CHARGERS;
if (!supply) throw new Error('no charger');
const twin: Charger = { ...supply, id: 'twin', name: 'Twin charger', sharesSetting: true };

/** A first charge that has just begun. */
function onCharge(charger: Charger, currentA: number): TestJob {
  const sheet = new TestJob().soak();
  return sheet.put('chargeStarted', { step: sheet.current.key, currentA, dueMin: 260, charger });
}

describe('a charger with one setting for all its outputs', () => {
  const refusal = (own: TestJob, ...others: readonly TestJob[]): string | undefined =>
    sharedSettingRefusal(
      own.job.state,
      others.map(({ job }) => job.state),
    );

  it('takes a second battery at the same current, and no other', () => {
    expect(refusal(onCharge(twin, 0.9), onCharge(twin, 0.9))).to.equal(undefined);
    expect(refusal(onCharge(twin, 0.8), onCharge(twin, 0.9))).to.match(
      /^Twin charger has one setting for all its outputs, and SK-0001 .* is on it at 0\.90 A: set this one to the same, or wait/,
    );
  });

  it('speaks of no other charger, and of none with settings of their own', () => {
    expect(refusal(onCharge(twin, 0.8), onCharge({ ...twin, id: 'other' }, 0.9))).to.equal(undefined);
    expect(refusal(onCharge(supply, 0.8), onCharge(supply, 0.9))).to.equal(undefined);
  });

  it('is free again once the other battery is off', () => {
    const other = onCharge(twin, 0.9).wait(280);
    other.put('chargeEnded', { step: other.current.key, fullSignal: false });
    expect(refusal(onCharge(twin, 0.8), other)).to.equal(undefined);
  });
});
