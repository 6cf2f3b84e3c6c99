import { expect } from 'chai';
import { alarmsOf, sounding } from './alarm.ts';
import type { Hand, Urgency } from './hand.ts';
import { handsOf } from './hands.ts';
import { TestJob } from '../../test/testJob.ts';

const hand = (job: string, urgency: Urgency): Hand => ({
  job,
  tag: job,
  bay: 1,
  stepKey: 'charge#1',
  title: 'Charger off now',
  note: '',
  at: 0,
  latestAt: 0,
  minutes: 1,
  urgency,
  isRunning: false,
});

describe('alarms', () => {
  it('put danger above overdue above due, and leave out what can wait', () => {
    const hands = [
      hand('a', 'later'),
      hand('b', 'due'),
      hand('c', 'blocked'),
      hand('d', 'danger'),
      hand('e', 'overdue'),
    ];
    expect(alarmsOf(hands).map(({ level }) => level)).to.deep.equal(['danger', 'overdue', 'due']);
  });

  it('keep quiet once heard: due for good, overdue for ten minutes, danger for one', () => {
    const minute = 60_000;
    for (const [level, quietMin] of [
      ['danger', 1],
      ['overdue', 10],
    ] as const) {
      const alarms = alarmsOf([hand('a', level)]);
      const heard = { [alarms[0]?.key ?? '']: 0 };
      expect(sounding(alarms, heard, false, quietMin * minute - 1)).to.equal(undefined);
      expect(sounding(alarms, heard, false, quietMin * minute)?.level).to.equal(level);
    }
    const due = alarmsOf([hand('a', 'due')]);
    expect(sounding(due, { [due[0]?.key ?? '']: 0 }, false, 1e12)).to.equal(undefined);
  });

  it('sound again when the same thing gets worse', () => {
    const [due] = alarmsOf([hand('a', 'due')]);
    const worse = alarmsOf([hand('a', 'overdue')]);
    expect(sounding(worse, { [due?.key ?? '']: 0 }, false, 1)?.level).to.equal('overdue');
  });

  it('are never silent on danger, whatever is switched off', () => {
    const alarms = alarmsOf([hand('a', 'overdue'), hand('b', 'danger')]);
    expect(sounding(alarms, {}, true, 0)?.level).to.equal('danger');
    expect(sounding(alarmsOf([hand('a', 'overdue')]), {}, true, 0)).to.equal(undefined);
  });

  it('mistake: charged hot. A battery above 50 °C on charge is danger until the charger is off', () => {
    const sheet = new TestJob().soak().put('chargeStarted', { step: 'charge#1', currentA: 0.9 }).wait(60);
    sheet.read(14.2, 0.9, 51);
    expect(alarmsOf(handsOf(sheet.job.state, sheet.now))[0]?.level).to.equal('danger');
    sheet.put('chargePaused', { step: 'charge#1', reason: 'hot' });
    expect(alarmsOf(handsOf(sheet.job.state, sheet.now))).to.deep.equal([]);
  });
});
