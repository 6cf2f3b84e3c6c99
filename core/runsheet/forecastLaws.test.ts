/** Laws of the forecast, over batteries and times of day. */
import { expect } from 'chai';
import fc from 'fast-check';
import { CATALOGUE } from '../demo/catalogue.ts';
import { contextOf } from './state/context.ts';
import { openSpanFrom } from '../clock/shopHours.ts';
import { HOURS, MORNING, TestJob } from '../test/testJob.ts';
import { forecast } from './plan/forecast.ts';

const MINUTE = 60_000;
const typeIds = CATALOGUE.filter(({ delivery }) => delivery === 'own-pack').map((type) => type.id);
const anyType = fc.constantFrom(...typeIds);
const minuteOfWeek = fc.integer({ min: 0, max: 7 * 24 * 60 });

describe('laws of the forecast', () => {
  it('a job taken in at any minute is drawn without a gap, in order, to its end', () => {
    fc.assert(
      fc.property(anyType, minuteOfWeek, (typeId, minute) => {
        const sheet = new TestJob(typeId, {}, MORNING + minute * MINUTE);
        const { segments, knots, readyAt } = forecast(sheet.job.state, sheet.now);
        expect(segments[0]?.from).to.equal(sheet.now);
        expect(segments.at(-1)?.to).to.equal(readyAt);
        segments.slice(1).forEach((segment, index) => expect(segment.from).to.equal(segments[index]?.to));
        for (const knot of knots) expect(knot.at).to.be.within(sheet.now, readyAt);
      }),
      { seed: 21, numRuns: 80 },
    );
  });

  it('never plans to leave a filled battery uncharged overnight', () => {
    fc.assert(
      fc.property(anyType, minuteOfWeek, (typeId, minute) => {
        const sheet = new TestJob(typeId, {}, MORNING + minute * MINUTE);
        const { segments, knots } = forecast(sheet.job.state, sheet.now);
        const filledAt = knots.find((knot) => knot.key === 'pack-on#1')?.at ?? 0;
        const charged = segments.find((segment) => segment.kind === 'charge');
        const provenInMs = contextOf(sheet.job.state, 1).chargeSetting().provingMin * MINUTE;
        expect((charged?.to ?? 0) - provenInMs).to.be.at.most(openSpanFrom(HOURS, filledAt).to);
      }),
      { seed: 22, numRuns: 80 },
    );
  });

  it('asks for hands only while the shop is open', () => {
    fc.assert(
      fc.property(anyType, minuteOfWeek, (typeId, minute) => {
        const sheet = new TestJob(typeId, {}, MORNING + minute * MINUTE);
        for (const knot of forecast(sheet.job.state, sheet.now).knots) {
          const span = openSpanFrom(HOURS, knot.at);
          expect(span.from, knot.title).to.be.at.most(knot.at);
        }
      }),
      { seed: 23, numRuns: 60 },
    );
  });

  it('doing things later never makes the battery ready earlier', () => {
    fc.assert(
      fc.property(anyType, minuteOfWeek, fc.integer({ min: 0, max: 600 }), (typeId, minute, delay) => {
        const sheet = new TestJob(typeId, {}, MORNING + minute * MINUTE);
        const now = forecast(sheet.job.state, sheet.now).readyAt;
        const later = forecast(sheet.job.state, sheet.now + delay * MINUTE).readyAt;
        expect(later).to.be.at.least(now);
      }),
      { seed: 24, numRuns: 80 },
    );
  });

  it('what is past stays where it was', () => {
    const sheet = new TestJob().soak();
    const before = forecast(sheet.job.state, sheet.now).knots.filter((knot) => knot.isDone);
    sheet.put('chargeStarted', { step: 'charge#1', currentA: 0.9 }).wait(100);
    const after = forecast(sheet.job.state, sheet.now).knots.filter((knot) => knot.isDone);
    expect(after.slice(0, before.length)).to.deep.equal(before);
  });
});
