import { expect } from 'chai';
import { TestJob } from '../test/testJob.ts';
import { nextHands } from './hands.ts';
import { SHELF } from './place.ts';

/** Charged slowly, at its first rest of a proof. */
const resting = (): TestJob =>
  new TestJob('BK-A12/55', { gradeRest: 'h12' }, undefined, 'recover-agm')
    .triage(11.6)
    .slowCharge()
    .route('prove', 'as far as it goes')
    .affirm('prove-off');

describe('where a battery stands', () => {
  it('rests on the shelf, and its bay is free', () => {
    const sheet = resting();
    expect(sheet.job.state.bay).to.equal(1);
    sheet.put('placed', { bay: SHELF });
    expect(sheet.job.state.bay).to.equal(SHELF);
    expect(nextHands([sheet.job.state], sheet.now)[0]?.bay).to.equal(SHELF);
  });

  it('is not moved while the charger is on, nor to where it stands, nor after its end', () => {
    const sheet = new TestJob().soak();
    expect(() => sheet.put('placed', { bay: 1 })).to.throw('It stands in bay 1 already');
    sheet.put('chargeStarted', { step: sheet.current.key, currentA: 0.4 });
    expect(() => sheet.put('placed', { bay: SHELF })).to.throw('switch it off before the battery is moved');
    sheet.wait(60).read(13.2, 0.4, 22);
    expect(sheet.job.state.bay).to.equal(1);
    sheet
      .put('chargePaused', { step: sheet.current.key, reason: 'stopped' })
      .put('withdrawn', { reason: 'owner came' });
    expect(() => sheet.put('placed', { bay: 2 })).to.throw('already ended');
  });

  it('takes no charge on the shelf, neither a new one nor one gone on with', () => {
    const sheet = new TestJob().soak().put('placed', { bay: SHELF });
    const start = () => sheet.put('chargeStarted', { step: sheet.current.key, currentA: 0.4 });
    expect(start).to.throw('on the shelf, where there is no charger');
    sheet.put('placed', { bay: 3 });
    start();
    sheet
      .wait(5)
      .put('chargePaused', { step: sheet.current.key, reason: 'stopped' })
      .put('placed', { bay: SHELF });
    expect(() => sheet.put('chargeResumed', { step: sheet.current.key, tempC: 21 })).to.throw('no charger');
  });
});
