import { expect } from 'chai';
import { forecast } from './forecast.ts';
import { handsOf, nextHands, nextHandsMoment } from './hands.ts';
import { MORNING, TestJob } from '../../test/testJob.ts';

const MINUTE = 60_000;

describe('next hands', () => {
  it('say what is due, then overdue, then blocked', () => {
    const sheet = new TestJob();
    expect(handsOf(sheet.job.state, sheet.now)[0]).to.include({
      title: 'Identify the battery',
      urgency: 'due',
    });
    expect(handsOf(sheet.job.state, sheet.now + 61 * MINUTE)[0]).to.include({ urgency: 'overdue' });
    sheet.checkIn().put('observed', { step: 'pack-code#1', code: 'P-12' });
    expect(handsOf(sheet.job.state, sheet.now)[0]).to.include({ urgency: 'blocked' });
  });

  it('while a pack drains they come at the end of its time', () => {
    const sheet = new TestJob().pressOn().wait(2).chambers('bubbles').wait(12).chambers('empty');
    const [first] = handsOf(sheet.job.state, sheet.now);
    expect(first).to.include({
      title: 'Lift the acid pack off',
      at: sheet.now + 30 * MINUTE,
      urgency: 'later',
    });
    const waiting = new TestJob();
    expect(nextHandsMoment([sheet.job.state, waiting.job.state], sheet.now)).to.equal(
      sheet.now + 30 * MINUTE,
    );
    expect(nextHandsMoment([waiting.job.state], sheet.now)).to.equal(undefined);
  });

  it('change the very second a wait is over, however lately they were looked at', () => {
    const sheet = new TestJob().pressOn().wait(2).chambers('bubbles').wait(12).chambers('empty');
    const over = sheet.now + 30 * MINUTE;
    expect(handsOf(sheet.job.state, over - 1000)[0]).to.include({ urgency: 'later', at: over });
    expect(handsOf(sheet.job.state, over)[0]).to.include({ urgency: 'due', title: 'Lift the acid pack off' });
  });

  it('put danger before everything, whatever the time', () => {
    const calm = new TestJob();
    const hot = new TestJob()
      .soak()
      .put('chargeStarted', { step: 'charge#1', currentA: 0.9 })
      .wait(30)
      .read(14.3, 0.9, 53);
    const [first] = nextHands([calm.job.state, hot.job.state], hot.now);
    expect(first).to.include({ urgency: 'danger', title: 'Charger off now' });
  });

  it('ask for a look at a running charge every hour and for the end of it', () => {
    const sheet = new TestJob().soak().put('chargeStarted', { step: 'charge#1', currentA: 0.9 });
    const titles = forecast(sheet.job.state, sheet.now)
      .knots.filter((knot) => !knot.isDone)
      .map((knot) => knot.title);
    expect(titles.filter((title) => title === 'Read volts, amps, warmth')).to.have.length(6);
    expect(titles).to.include('Charger off at the mains');
  });

  it('need none once the job has ended', () => {
    const sheet = new TestJob().put('withdrawn', { reason: 'owner took it back' });
    expect(handsOf(sheet.job.state, sheet.now)).to.deep.equal([]);
    expect(nextHandsMoment([sheet.job.state], sheet.now)).to.equal(undefined);
  });
});

describe('what is under current', () => {
  it('comes before what can wait, though that has been due for longer', () => {
    const running = new TestJob('LW-A12/9', {}, undefined, undefined, { bay: 2 }).soak();
    running.put('chargeStarted', { step: running.current.key, currentA: 0.9 });
    const lookAt = handsOf(running.job.state, running.now)[0]?.at ?? 0;
    const order = (now: number, boxAt: number): readonly (readonly [string, number])[] => {
      const idle = new TestJob('LW-A12/9', {}, boxAt);
      return nextHands([idle.job.state, running.job.state], now)
        .filter(({ urgency }) => urgency !== 'later')
        .map(({ urgency, bay }) => [urgency, bay] as const);
    };
    expect(order(lookAt + MINUTE, lookAt - 30 * MINUTE)).to.deep.equal([
      ['due', 2],
      ['due', 1],
    ]);
    // What is overdue goes before what is only due, current or not.
    expect(order(lookAt + MINUTE, lookAt - 90 * MINUTE)).to.deep.equal([
      ['overdue', 1],
      ['due', 2],
    ]);
  });

  it('does not push what is wanted sooner behind a look of the evening', () => {
    const running = new TestJob('LW-A12/9', {}, MORNING - 240 * MINUTE, undefined, { bay: 2 }).soak();
    running.put('chargeStarted', { step: running.current.key, currentA: 0.9 });
    // A box opened a moment ago: its next visits come before the later looks at the charge.
    const draining = new TestJob('LW-A12/9', {}, running.now - 20 * MINUTE).pressOn().wait(2);
    draining.chambers('bubbles').wait(12).chambers('empty');
    const later = nextHands([draining.job.state, running.job.state], running.now).filter(
      ({ urgency }) => urgency === 'later',
    );
    expect(later.map(({ at }) => at)).to.deep.equal(later.map(({ at }) => at).toSorted((a, b) => a - b));
    expect(new Set(later.map(({ bay }) => bay)).size).to.equal(2);
  });

  it('off at the mains is due since the look that said so, however often it is looked at again', () => {
    const sheet = new TestJob('BK-A12/55', {}, undefined, 'recover-agm').triage(4.2).route('supply-wake');
    sheet.affirm('supply-polarity').put('chargeStarted', { step: sheet.current.key, currentA: 1.1 });
    sheet.wait(15).read(9, 1.1, 22).put('chargeSet', { step: sheet.current.key, currentA: 2.75 });
    sheet.wait(40).read(12.9, 2.75, 23);
    const doneAt = sheet.now;
    const due = (): number | undefined => handsOf(sheet.job.state, sheet.now)[0]?.at;
    expect(due()).to.equal(doneAt);
    sheet.wait(40).read(13, 2.75, 23);
    expect(due()).to.equal(doneAt);
    expect(handsOf(sheet.job.state, sheet.now)[0]?.urgency).to.equal('overdue');
  });

  it('too hot is due since the first look that read it, not the last', () => {
    const sheet = new TestJob('LW-A12/9').soak();
    sheet.put('chargeStarted', { step: sheet.current.key, currentA: 0.9 }).wait(60).read(13.9, 0.9, 46);
    const hotAt = sheet.now;
    sheet.wait(10).read(13.9, 0.9, 47);
    expect(handsOf(sheet.job.state, sheet.now)[0]?.at).to.equal(hotAt);
  });
});

describe('forecast', () => {
  it('adds up drain, dwell, soak, charge and rest, with about half an hour of hands', () => {
    const sheet = new TestJob();
    const { readyAt, handsLeftMin, segments } = forecast(sheet.job.state, sheet.now);
    const hours = (readyAt - sheet.now) / 3_600_000;
    // Drain, soak and charge end past five; the rest runs over closing, and the test is next morning.
    expect(hours).to.be.within(24.5, 25.5);
    expect(handsLeftMin).to.be.within(20, 35);
    const charge = segments.find((segment) => segment.kind === 'charge');
    expect(((charge?.to ?? 0) - (charge?.from ?? 0)) / MINUTE).to.equal(430);
  });

  it('moves work that would fall after closing to the next morning', () => {
    const sheet = new TestJob('LW-A12/9', {}, Date.parse('2026-03-10T15:00:00Z'));
    const { knots } = forecast(sheet.job.state, sheet.now);
    for (const knot of knots.filter((one) => one.title !== 'Read volts, amps, warmth')) {
      const hour = new Date(knot.at).getUTCHours();
      expect(hour, knot.title).to.be.within(8, 17);
    }
  });

  it('draws one unbroken cord from opening to ready', () => {
    const sheet = new TestJob().soak().put('chargeStarted', { step: 'charge#1', currentA: 0.9 }).wait(50);
    const { segments, readyAt } = forecast(sheet.job.state, sheet.now);
    segments.slice(1).forEach((segment, index) => expect(segment.from).to.equal(segments[index]?.to));
    expect(segments.at(-1)?.to).to.equal(readyAt);
  });
});
