import { expect } from 'chai';
import { bayPicture, type BayPicture } from './benchPicture.ts';
import { forecast } from './forecast.ts';
import { TestJob } from '../../test/testJob.ts';

const MINUTE = 60_000;

const lastOf = ({ job: { state, log } }: TestJob) => ({ state, at: log.at(-1)?.at ?? 0 });

const pictureOf = (sheet: TestJob, minutes = 0): BayPicture =>
  bayPicture(lastOf(sheet), sheet.now + minutes * MINUTE);

describe('a battery on the bench, in a picture', () => {
  it('says in a word how it stands', () => {
    const boxed = new TestJob();
    expect(pictureOf(boxed).mood).to.deep.equal({ word: 'hands due', tone: 'calm' });
    expect(pictureOf(boxed, 61).mood).to.deep.equal({ word: 'overdue', tone: 'stop' });
    boxed.checkIn().put('observed', { step: 'pack-code#1', code: 'P-12' });
    expect(pictureOf(boxed).mood).to.deep.equal({ word: 'blocked', tone: 'stop' });
    const soaked = new TestJob().soak();
    expect(pictureOf(soaked).mood).to.deep.equal({ word: 'ready to charge', tone: 'calm' });
  });

  it('shows what the meter showed last, only while current flows', () => {
    const sheet = new TestJob().soak().put('chargeStarted', { step: 'charge#1', currentA: 0.9 }).wait(30);
    expect(pictureOf(sheet).shown).to.equal(undefined);
    sheet.read(13.9, 0.9, 27);
    expect(pictureOf(sheet).shown).to.deep.equal({ voltageV: 13.9, currentA: 0.9, tempC: 27 });
    sheet.wait(10).read(14.1, 0.9, 52).put('chargePaused', { step: 'charge#1', reason: 'hot' });
    expect(pictureOf(sheet).shown).to.equal(undefined);
    expect(pictureOf(sheet).mood).to.deep.equal({ word: 'cooling, charger off', tone: 'care' });
  });

  it('draws its cord, and never at a moment before its last entry', () => {
    const sheet = new TestJob().soak();
    const { at, state } = lastOf(sheet);
    expect(pictureOf(sheet).forecast).to.deep.equal(forecast(state, sheet.now));
    expect(bayPicture({ at, state }, at - 60 * MINUTE)).to.deep.equal(pictureOf(sheet));
  });
});
