import { expect } from 'chai';
import { agedHands, byUrgency } from './hand.ts';
import { handsOf, nextHands } from './hands.ts';
import { MORNING, TestJob } from '../../test/testJob.ts';

const MINUTE = 60_000;

describe('hands that were worked out before', () => {
  const sheet = new TestJob();
  const draining = new TestJob().pressOn().wait(2).chambers('bubbles').wait(12).chambers('empty');
  const blocked = new TestJob().checkIn().put('observed', { step: 'pack-code#1', code: 'P-12' });
  const begun = draining.now;
  const states = [sheet, draining, blocked].map(({ job }, at) => ({ ...job.state, job: `j${at}` }));

  it('fall due and become overdue by the clock alone, as worked out anew', () => {
    const told = nextHands(states, begun);
    for (let minute = 0; minute <= 120; minute += 5) {
      const at = begun + minute * MINUTE;
      const firsts = states.map((state) => handsOf(state, at)[0]?.urgency);
      const aged = agedHands(told, at);
      const agedFirsts = states.map(
        (state) => aged.filter(({ job }) => job === state.job).sort((a, b) => a.at - b.at)[0]?.urgency,
      );
      expect(agedFirsts, `after ${minute} min`).to.deep.equal(firsts);
      expect([...aged].sort(byUrgency), 'in order').to.deep.equal(aged);
    }
  });

  it('are the very same list while nothing changes', () => {
    const told = nextHands(states, begun);
    expect(agedHands(told, begun)).to.equal(told);
    const later = agedHands(told, begun + 31 * MINUTE);
    expect(later).not.to.equal(told);
    expect(agedHands(later, begun + 31 * MINUTE)).to.equal(later);
  });

  it('what follows waits for what comes first', () => {
    const told = nextHands([draining.job.state], MORNING);
    const [first, ...rest] = agedHands(told, MORNING + 48 * 60 * MINUTE);
    expect(first?.urgency).to.equal('overdue');
    expect(rest.map(({ urgency }) => urgency)).to.deep.equal(rest.map(() => 'later'));
  });
});
