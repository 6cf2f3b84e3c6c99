/** Ways that wake a battery no charger sees: by hand and by a supply, to their two readings. */
import { expect } from 'chai';
import { CHARGERS } from '../charge/chargers.ts';
import type { Charger } from '../charge/charger.ts';
import { brought, end, start, treatmentAtHand } from '../test/broughtIn.ts';
import { TestJob } from '../test/testJob.ts';
import { describeEvent } from './log/describe.ts';
import { handsOf } from './plan/hands.ts';

const MINUTE = 60_000;

describe('forced start', () => {
  const forced = (): TestJob =>
    brought('BK-A12/55', { wakeMethod: 'manual' }).triage(4).route('forced-start');

  it('checks polarity twice, stays attended, and is done at 12 V on the meter', () => {
    const sheet = forced().affirm('forced-polarity');
    const treatment = treatmentAtHand(sheet);
    expect(treatment).to.include({ isAttended: true, setA: 2.75, mostA: 5.5 });
    start(sheet, 4).wait(40).read(11.2, 4, 23);
    expect(() => end(sheet)).to.throw('still due');
    sheet.wait(20).read(12.1, 4, 24);
    end(sheet);
    expect(sheet.current.key).to.equal('forced-off#1');
    sheet.affirm('forced-off').wait(10).measure('forced-read', { ocvV: 11.4 }).wait(20);
    sheet.measure('forced-read-late', { ocvV: 11.35 });
    expect(sheet.current.key).to.equal('choose-route#2');
  });

  it('calls hands every quarter of an hour', () => {
    const sheet = start(forced().affirm('forced-polarity'), 4);
    expect(handsOf(sheet.job.state, sheet.now)[0]).to.include({
      title: 'Read volts, amps, warmth',
      at: sheet.now + 15 * MINUTE,
    });
  });
});

describe('a wake with the supply', () => {
  const woken = (): TestJob => {
    const sheet = start(brought('BK-A12/55').triage(5.4).route('supply-wake').affirm('supply-polarity'), 2.7);
    sheet.wait(30).read(14.8, 1.2, 22).wait(30).read(13.1, 2.7, 23);
    return end(sheet);
  };
  const automatic = {
    ...CHARGERS[2],
    id: 'auto',
    name: 'Automatic',
    leastA: 2,
    kind: 'automatic',
  } as Charger;

  it('ends like one beside a donor: off, nothing connected, read at 10 and at 30 minutes', () => {
    const sheet = woken();
    expect(sheet.current.key).to.equal('supply-off#1');
    sheet.affirm('supply-off');
    expect(() => sheet.measure('supply-read', { ocvV: 11.3 })).to.throw('is not open yet');
    sheet
      .wait(10)
      .measure('supply-read', { ocvV: 11.3 })
      .wait(20)
      .measure('supply-read-late', { ocvV: 11.2 });
    expect(sheet.current.key).to.equal('choose-route#2');
  });

  it('begins at C/50 and is raised as it takes it: an entry of its own, never beyond C/20 or ahead of a look', () => {
    const sheet = brought('BK-A12/55').triage(5.4).route('supply-wake').affirm('supply-polarity');
    expect(treatmentAtHand(sheet)).to.include({ setA: 1.1, mostA: 2.75 });
    start(sheet, 1.1).wait(15);
    const set = (currentA: number): TestJob => sheet.put('chargeSet', { step: sheet.current.key, currentA });
    expect(() => set(2)).to.throw(
      'Look first: more than 1.10 A is set once a look shows that it takes that.',
    );
    sheet.read(14.9, 0.4, 22);
    expect(() => set(2)).to.throw('It takes 0.40 of 1.10 A: more is set once it takes what is set.');
    sheet.wait(15).read(14.1, 1.09, 22);
    expect(() => set(3)).to.throw('3 A is outside 0.11 to 2.75 A');
    expect(set(2).current.charge).to.deep.include({ currentA: 2 });
    expect(() => set(2.75)).to.throw('Look first');
    expect(set(1.5).current.charge?.wasSet?.map(({ currentA }) => currentA)).to.deep.equal([1.1, 2]);
    // It is done by what it is to take in the end, not by what it was first set to.
    sheet.wait(15).read(13.2, 1.5, 22);
    expect(() => end(sheet)).to.throw('still due');
    set(2.75).wait(15).read(13.3, 2.74, 23);
    expect(end(sheet).current.key).to.equal('supply-off#1');
    expect(
      sheet.job.log.flatMap((event) =>
        event.kind === 'chargeSet' ? [describeEvent(event, sheet.job.state)] : [],
      )[0],
    ).to.equal('Current set to 2.00 A');
  });

  it('a charge nobody stands by keeps the current it was started with', () => {
    const sheet = start(brought('BK-A12/55').triage(12.1).route('slow-charge'), 2.75)
      .wait(60)
      .read(12.9, 2.75, 22);
    expect(() => sheet.put('chargeSet', { step: sheet.current.key, currentA: 4 })).to.throw(
      'keeps the current it was started with',
    );
  });

  it('left before it woke leaves the battery as deep as it was: a slow charge still wants its reason', () => {
    const sheet = brought('BK-A12/55').triage(5.4).route('supply-wake');
    sheet.put('routeLeft', { step: sheet.current.key, reason: 'the supply is needed elsewhere' });
    expect(() => sheet.route('slow-charge')).to.throw('5.40 V: below 10.50 V it is woken first');
  });

  it('what falls further in those twenty minutes is a leak, and is held', () => {
    const sheet = woken().affirm('supply-off').wait(10).measure('supply-read', { ocvV: 11.3 }).wait(20);
    expect(sheet.measure('supply-read-late', { ocvV: 10.9 }).current.why).to.include(
      'a leak that 10.5 V alone',
    );
  });

  it('then the automatic charger sees it: by what it reads now, not by the 5.4 V it came with', () => {
    const sheet = woken().affirm('supply-off').wait(10).measure('supply-read', { ocvV: 11.3 }).wait(20);
    sheet.measure('supply-read-late', { ocvV: 11.2 }).route('slow-charge');
    sheet.put('chargeStarted', { step: sheet.current.key, currentA: 2.75, charger: automatic });
    expect(sheet.current.charge?.charger?.name).to.equal('Automatic');
  });

  it('a log of the second edition ends it with its charge, and keeps the charger it was let on with', () => {
    const old = new TestJob('BK-A12/55', {}, undefined, 'recover-agm', { edition: 2 }).triage(5.4);
    start(old.route('supply-wake').affirm('supply-polarity'), 2.7).wait(60).read(13.1, 2.7, 23);
    expect(end(old).current.key).to.equal('choose-route#2');
    old.route('slow-charge');
    old.put('chargeStarted', { step: old.current.key, currentA: 2.75, charger: automatic });
    expect(old.current.charge?.currentA).to.equal(2.75);
  });
});
