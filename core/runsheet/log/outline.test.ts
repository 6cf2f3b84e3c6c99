import { expect } from 'chai';
import { TestJob } from '../../test/testJob.ts';
import { atHand } from '../plan/atHand.ts';
import type { Entry } from '../entries/events.ts';
import { record } from './fold.ts';
import { MOST_LOOKS, onwardWith, outlineOf, packed, unpacked, type Outline } from './outline.ts';
import { readingsOf } from '../state/looks.ts';

const sent = (outline: Outline): Outline =>
  unpacked(JSON.parse(JSON.stringify(packed(outline))) as ReturnType<typeof packed>);

/** On charge, looked at so often, a minute apart. */
function watched(looks: number): TestJob {
  const sheet = new TestJob().fill().wait(180).affirm('strip').measure('ocv-soak', { ocvV: 12.6, tempC: 21 });
  sheet.put('chargeStarted', { step: sheet.current.key, currentA: 0.8 });
  for (let look = 0; look < looks; look++)
    sheet.wait(1).put('chargeRead', {
      step: sheet.current.key,
      values: { voltageV: 13 + look / 1000, currentA: 0.8, tempC: 22 },
      source: 'keypad',
    });
  return sheet;
}

describe('an outline', () => {
  it('is the state a log comes to, and the place of its last entry', () => {
    const { job, now } = watched(5);
    const { seq, at, state } = sent(outlineOf(job));
    expect([seq, at]).to.deep.equal([job.log.length, now]);
    expect(JSON.stringify({ ...state, readings: undefined })).to.equal(
      JSON.stringify({ ...job.state, readings: undefined }),
    );
    const step = state.steps[state.cursor]?.key;
    expect(readingsOf(state, step)).to.deep.equal(readingsOf(job.state, step));
    expect(atHand(state, now)?.dueAt).to.equal(atHand(job.state, now)?.dueAt);
  });

  it('stays small however long a charge is watched, its newest looks as they are', () => {
    const { job } = watched(1500);
    const { looks } = packed(outlineOf(job));
    expect(looks.length).to.be.at.most(MOST_LOOKS);
    const step = looks[0]?.step ?? '';
    const all = readingsOf(job.state, step);
    expect(looks.slice(-40).map(({ reading }) => reading)).to.deep.equal(all.slice(-40));
    expect(looks[0]?.reading).to.deep.equal(all[0]);
    expect(JSON.stringify(looks).length).to.be.below(20_000);
  });

  it('goes on by an entry as its log does', () => {
    const { job, now } = watched(30);
    const { state } = outlineOf(job);
    const step = state.steps[state.cursor]?.key ?? '';
    const hot: Entry = {
      kind: 'chargeRead',
      payload: { step, values: { voltageV: 13.4, currentA: 0.8, tempC: 58 }, source: 'keypad' },
    };
    const later = now + 60_000;
    const next = onwardWith(sent(outlineOf(job)), hot, later, 'Ines');
    const whole = record(job, hot, later, 'Ines').state;
    const [mine, its] = [next?.state, whole].map((one) => one?.steps[one.cursor]);
    expect(mine).to.deep.equal(its);
    expect(mine?.status).to.equal('held');
    expect(next?.seq).to.equal(job.log.length + 1);
  });

  it('does not guess what a correction changes, nor what it has missed', () => {
    const { job, now } = watched(2);
    const outline = outlineOf(job);
    expect(onwardWith(outline, { kind: 'undone', payload: { replaces: '#3' } }, now, 'Ines')).to.equal(
      undefined,
    );
  });

  it('refuses what the run sheet refuses', () => {
    const { job, now } = watched(2);
    const wrong: Entry = { kind: 'affirmed', payload: { step: 'identify#1' } };
    expect(() => onwardWith(outlineOf(job), wrong, now, 'Ines')).to.throw('already recorded');
  });
});
