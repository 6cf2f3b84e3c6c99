import { expect } from 'chai';
import * as fc from 'fast-check';
import { TestJob } from '../../test/testJob.ts';
import type { Hand } from './hand.ts';
import { nextHands } from './hands.ts';
import { inTurn } from './inTurn.ts';

const MINUTE = 60_000;
const visit = (job: string, at: number, minutes: number, slackMin: number): Hand => ({
  job,
  tag: job,
  bay: Number(job),
  stepKey: 'charge#1',
  title: 'Read volts, amps, warmth',
  note: '',
  at: at * MINUTE,
  latestAt: (at + slackMin) * MINUTE,
  minutes,
  urgency: 'later',
  isRunning: false,
});

describe('one pair of hands', () => {
  it('goes to one bay after the other, and says whom the second waits for', () => {
    const turns = inTurn([visit('1', 60, 20, 30), visit('2', 70, 5, 30)], 0);
    expect(turns.map(({ startAt }) => startAt / MINUTE)).to.deep.equal([60, 80]);
    expect(turns[1]?.behind?.job).to.equal('1');
    expect(turns.some(({ isClash }) => isClash)).to.equal(false);
  });

  it('a visit that cannot wait that long is a clash, named before it happens', () => {
    const turns = inTurn([visit('1', 60, 45, 30), visit('2', 70, 5, 30)], 0);
    expect(turns[1]).to.include({ isClash: true, startAt: 105 * MINUTE });
    expect(inTurn([visit('1', 60, 45, 30), visit('2', 70, 5, 30)], 0, 2)[1]).to.include({
      isClash: false,
      startAt: 70 * MINUTE,
    });
  });

  it('what is overdue already is not called a clash to come', () => {
    expect(inTurn([visit('1', -60, 5, 30)], 0)[0]).to.include({ isClash: false, startAt: 0 });
  });

  it('never asks for two pairs at once, whatever the visits', () => {
    const visits = fc.array(
      fc.record({ at: fc.integer({ min: -60, max: 600 }), minutes: fc.integer({ min: 1, max: 45 }) }),
      { maxLength: 20 },
    );
    fc.assert(
      fc.property(visits, fc.integer({ min: 1, max: 3 }), (list, pairs) => {
        const hands = list
          .map(({ at, minutes }, index) => visit(String(index), at, minutes, 30))
          .sort((a, b) => a.at - b.at);
        const turns = inTurn(hands, 0, pairs);
        for (const { startAt } of turns) {
          const busy = turns.filter(
            (one) => one.startAt <= startAt && startAt < one.startAt + one.minutes * MINUTE,
          );
          expect(busy.length).to.be.at.most(pairs);
        }
      }),
    );
  });

  it('a bench of boxes just opened is gone through one by one', () => {
    const sheets = [new TestJob(), new TestJob(), new TestJob()];
    const now = Math.max(...sheets.map((sheet) => sheet.now));
    const turns = inTurn(
      nextHands(
        sheets.map((sheet) => sheet.job.state),
        now,
      ),
      now,
    ).filter(({ urgency }) => urgency === 'due');
    expect(turns).to.have.length(3);
    const [first, second] = turns;
    expect(first?.minutes).to.be.within(5, 40);
    expect(second?.startAt).to.equal(now + (first?.minutes ?? 0) * MINUTE);
  });
});
