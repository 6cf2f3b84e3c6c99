import { expect } from 'chai';
import { bayTimes, firstFree, isWaiting } from '../../schedule/bayTimes.ts';
import { describeEvent } from '../log/describe.ts';
import { TestJob } from '../../test/testJob.ts';
import { atHand } from '../plan/atHand.ts';
import { nextHands } from '../plan/hands.ts';
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

  it('taken in while every bay is full it waits, is called for when it is planned, and counts on a bay', () => {
    const HOUR = 3_600_000;
    const inBay = new TestJob('LW-A12/9');
    const plannedAt = inBay.now + 5 * HOUR;
    const waits = new TestJob('LW-A12/9', {}, undefined, undefined, { bay: SHELF, plannedAt });
    expect(isWaiting(waits.job.state)).to.equal(true);
    expect(atHand(waits.job.state, waits.now)?.dueAt).to.equal(plannedAt);
    const states = [inBay.job.state, waits.job.state];
    const [first] = bayTimes([{ number: 1 }], [inBay.job.state], inBay.now);
    const [both] = bayTimes([{ number: 1 }], states, inBay.now);
    expect(both?.freeAt).to.be.greaterThan((first?.freeAt ?? 0) + 4 * HOUR);
    expect(
      firstFree(bayTimes([{ number: 1 }, { number: 2 }], states.slice(0, 1), inBay.now))?.number,
    ).to.equal(2);
    waits.affirm('identify');
    expect(isWaiting(waits.job.state)).to.equal(false);
  });
});

describe('what was agreed', () => {
  it('promise and owner are set anew with a reason that stands in the log; never to a time gone by, nor after the end', () => {
    const sheet = new TestJob('LW-A12/9');
    const promisedAt = sheet.now + 50 * 3_600_000;
    sheet.put('arranged', { promisedAt, owner: 'lighthouse boat', why: 'the ferry is late' });
    expect(sheet.job.state.opened).to.deep.include({ promisedAt });
    expect(sheet.job.state.opened.battery.owner).to.equal('lighthouse boat');
    const words = describeEvent(sheet.job.log.at(-1) as never, sheet.job.state);
    expect(words).to.match(
      /^Now promised for Thu 10:05, for \u2068lighthouse boat\u2069: “the ferry is late”$/,
    );
    const set = (change: { promisedAt?: number; owner?: string }): unknown =>
      sheet.put('arranged', { ...change, why: 'the ferry is late' });
    expect(() => set({ promisedAt: sheet.now - 1 })).to.throw('must lie ahead');
    expect(() => set({})).to.throw('Nothing is changed');
    sheet.put('withdrawn', { reason: 'opened by mistake' });
    expect(() => set({ promisedAt: promisedAt + 1 })).to.throw('has already ended');
  });
});
