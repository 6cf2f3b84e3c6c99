import { expect } from 'chai';
import { atHand } from './atHand.ts';
import { lookMarks } from './forecast.ts';
import { minutesOnCharge } from '../state/looks.ts';
import { TestJob } from '../../test/testJob.ts';

const MINUTE = 60_000;

function hand(sheet: TestJob) {
  const found = atHand(sheet.job.state, sheet.now);
  if (!found) throw new Error('nothing at hand');
  return found;
}

describe('the step at hand', () => {
  it('is due when there is something to see, and overdue some time after', () => {
    const sheet = new TestJob().pressOn();
    expect(hand(sheet)).to.include({
      title: 'Bubbles in every chamber?',
      dueAt: sheet.now + 2 * MINUTE,
      overdueAt: sheet.now + 12 * MINUTE,
    });
  });

  it('is a dwell with its end while it runs, and the next step at that very moment', () => {
    const sheet = new TestJob().pressOn().wait(2).chambers('bubbles').wait(12).chambers('empty');
    const until = hand(sheet).until ?? 0;
    sheet.now = until - 1;
    expect(hand(sheet).definition.id).to.equal('pack-dwell');
    sheet.now = until;
    expect(hand(sheet)).to.include({ dueAt: until });
    expect(hand(sheet).definition.id).to.equal('pack-off');
  });

  it('waits for the shop to open when a dwell ended in the night', () => {
    const sheet = new TestJob().fill();
    sheet.now = Date.parse('2026-03-11T03:00:00Z');
    const late = new TestJob('LW-A12/9', {}, Date.parse('2026-03-10T16:20:00Z'));
    late
      .checkIn()
      .put('observed', { step: 'pack-code#1', code: 'P-09' })
      .put('skipped', { step: 'weigh-dry#1' })
      .affirm('foil-off');
    late.put('overridden', { step: 'pack-on#1', reason: 'to be charged tonight at home' }).affirm('pack-on');
    late.wait(2).chambers('bubbles').wait(12).chambers('empty').wait(30).affirm('pack-off');
    late.now = Date.parse('2026-03-10T23:00:00Z');
    expect(hand(late).dueAt).to.equal(Date.parse('2026-03-11T08:00:00Z'));
  });

  it('goes through the phases of a charge', () => {
    const sheet = new TestJob().soak();
    const phases = [hand(sheet).phase];
    const note = () => phases.push(hand(sheet).phase);
    sheet.put('chargeStarted', { step: 'charge#1', currentA: 0.9 });
    note();
    sheet.wait(30).read(14.2, 0.9, 53);
    note();
    sheet.put('chargePaused', { step: 'charge#1', reason: 'hot' });
    note();
    sheet
      .wait(30)
      .put('chargeResumed', { step: 'charge#1', tempC: 33 })
      .wait(10)
      .put('chargePaused', { step: 'charge#1', reason: 'stopped' });
    note();
    sheet.put('chargeResumed', { step: 'charge#1', tempC: 30 }).wait(400);
    note();
    expect(phases).to.deep.equal(['ready', 'running', 'tooHot', 'cooling', 'stopped', 'complete']);
  });

  it('asks for the end of a charge at the moment its time was up, pauses left out', () => {
    const sheet = new TestJob().soak().put('chargeStarted', {
      step: 'charge#1',
      currentA: 0.9,
      dueMin: 240,
    });
    const dueAt = hand(sheet).until ?? 0;
    sheet.wait(20).put('chargePaused', { step: 'charge#1', reason: 'stopped' }).wait(25);
    sheet.put('chargeResumed', { step: 'charge#1', tempC: 25 }).wait(500);
    expect(hand(sheet)).to.include({ title: 'Charger off at the mains', dueAt: dueAt + 25 * MINUTE });
    const { charge } = sheet.current;
    expect(charge && minutesOnCharge(charge, sheet.now)).to.equal(520);
  });

  it('asks for another look while a charge whose time is up is not flat, then for its end', () => {
    const start = { step: 'charge#1', currentA: 0.9, dueMin: 240 };
    const sheet = new TestJob().soak().put('chargeStarted', start).wait(240).read(14.7, 0.4);
    expect(hand(sheet)).to.include({ phase: 'complete', title: 'Not flat yet: look again' });
    expect(hand(sheet).dueAt).to.equal(sheet.now + 30 * MINUTE);
    sheet.wait(60).read(14.7, 0.09).wait(60).read(14.7, 0.09).wait(60).read(14.7, 0.08);
    expect(hand(sheet).title).to.equal('Charger off at the mains');
  });

  it('keeps the time a charge was started for, and refuses one no first charge takes', () => {
    const start = (dueMin: number) =>
      new TestJob().soak().put('chargeStarted', { step: 'charge#1', currentA: 0.9, dueMin });
    const sheet = start(400);
    expect(hand(sheet).until).to.equal(sheet.now + 400 * MINUTE);
    expect(() => start(90)).to.throw('Time on charge: 90 min is outside 120 to 2880 min for a first charge.');
  });

  it('shows the guard before a pack is pressed on too late, and not once a reason is on record', () => {
    const sheet = new TestJob('LW-A12/9', {}, Date.parse('2026-03-10T15:00:00Z'));
    sheet
      .checkIn()
      .put('observed', { step: 'pack-code#1', code: 'P-09' })
      .put('skipped', { step: 'weigh-dry#1' })
      .affirm('foil-off');
    expect(hand(sheet).hold).to.include({ canOverride: true });
    sheet.put('overridden', { step: 'pack-on#1', reason: 'night shift will finish it' });
    expect(hand(sheet).hold).to.equal(undefined);
  });
});

describe('looks at a charge', () => {
  it('are counted back from its end, so the last three fall where flatness is judged', () => {
    expect(lookMarks(255, 60)).to.deep.equal([15, 75, 135, 195]);
    expect(lookMarks(60, 60)).to.deep.equal([]);
    expect(lookMarks(300, 60)).to.deep.equal([60, 120, 180, 240]);
  });
});
