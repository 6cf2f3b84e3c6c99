/** Laws of a recovery, whatever is entered in whatever order: no veto is bypassed, no limit passed, no charge revived. */
import { expect } from 'chai';
import * as fc from 'fast-check';
import { CHARGERS } from '../charge/chargers.ts';
import { brought } from '../test/broughtIn.ts';
import { TestJob } from '../test/testJob.ts';
import { chargerMisfit } from './verdict/chargerFit.ts';
import { isDrawnDown } from './definition/restedSteps.ts';
import { RunSheetError } from './entries/errors.ts';
import type { Entry } from './entries/events.ts';
import { foldJob, record, type Job } from './log/fold.ts';
import { isOn } from './state/looks.ts';
import { contextOf } from './state/context.ts';
import { definitionOf, procedureOf } from './state/sheet.ts';
import type { JobState } from './state/jobState.ts';

const REASON = 'because I say so';
const AGM_ROUTES = procedureOf(new TestJob('BK-A12/55', {}, undefined, 'recover-agm').job.state).routes ?? [];

/** An entry for the step at hand, sensible or not, chosen by numbers. */
function entryFor(state: JobState, pick: number, value: number): Entry {
  const step = state.steps[state.cursor];
  const key = step?.key ?? 'none#1';
  const route = AGM_ROUTES[pick % AGM_ROUTES.length]?.id ?? '';
  const volts = (value % 200) / 10;
  const values = { voltageV: volts, currentA: value % 12, tempC: 10 + (value % 60) };
  const entries: Entry[] = [
    { kind: 'affirmed', payload: { step: key } },
    { kind: 'skipped', payload: { step: key } },
    { kind: 'overridden', payload: { step: key, reason: REASON } },
    { kind: 'routed', payload: { step: key, route, reason: REASON } },
    { kind: 'routed', payload: { step: key, route } },
    { kind: 'routeLeft', payload: { step: key, reason: REASON } },
    { kind: 'chargeStarted', payload: { step: key, currentA: value % 30 } },
    { kind: 'chargeRead', payload: { step: key, values, source: 'meter' } },
    { kind: 'chargePaused', payload: { step: key, reason: value % 2 ? 'hot' : 'stopped' } },
    { kind: 'chargeResumed', payload: { step: key, tempC: value % 60 } },
    { kind: 'chargeEnded', payload: { step: key, fullSignal: value % 2 === 0 } },
    { kind: 'decided', payload: { step: key, verdict: value % 2 ? 'pass' : 'reject' } },
    { kind: 'measured', payload: { step: key, values: { ocvV: volts }, source: 'keypad' } },
    { kind: 'measured', payload: { step: key, values: { donorV: volts }, source: 'keypad' } },
    { kind: 'measured', payload: { step: key, values: { ocvV: volts, tempC: 20 }, source: 'keypad' } },
    { kind: 'evidenced', payload: { reading: { kind: 'ocv', volts, isRested: true } } },
    ...CHARGERS.map((charger): Entry => ({
      kind: 'chargeStarted',
      payload: { step: key, currentA: (value % 60) / 10, charger },
    })),
    { kind: 'chargeSet', payload: { step: key, currentA: (value % 60) / 10 } },
    { kind: 'measured', payload: { step: key, values: { minutes: 300, endV: 11.5 }, source: 'keypad' } },
    {
      kind: 'measured',
      payload: { step: key, values: { method: 'slow', drawnAh: value % 60 }, source: 'keypad' },
    },
  ];
  return entries[pick % entries.length] ?? { kind: 'affirmed', payload: { step: key } };
}

const doings = fc.array(
  fc.record({
    pick: fc.nat(10_000),
    value: fc.nat(10_000),
    waitMin: fc.constantFrom(0, 5, 30, 61, 300, 2000),
  }),
  { maxLength: 60 },
);

/** Goes through what is entered, refused entries left out, and shows each state before and after to a check. */
function play(
  start: TestJob,
  list: readonly { pick: number; value: number; waitMin: number }[],
  check: (before: JobState, after: JobState, entry: Entry) => void,
): Job {
  let { job } = start;
  let at = start.now;
  for (const { pick, value, waitMin } of list) {
    at += waitMin * 60_000;
    const entry = entryFor(job.state, pick, value);
    try {
      const next = record(job, entry, at, 'Ines');
      check(job.state, next.state, entry);
      job = next;
    } catch (error) {
      if (!(error instanceof RunSheetError)) throw error;
    }
  }
  return job;
}

const starts = fc.constantFrom(
  () => new TestJob('BK-A12/55', {}, undefined, 'recover-agm').triage(5),
  () => new TestJob('BK-A12/55', { wakeMethod: 'donor' }, undefined, 'recover-agm').triage(5),
  () => new TestJob('LW-A12/9', { wakeMethod: 'donor' }, undefined, 'recover-agm').triage(11.5),
  () => new TestJob('BK-A12/55', { agmWater: 'measured' }, undefined, 'recover-agm').triage(12.4),
);

/** Before a charger goes on: shallow and deep, sealed and open, 12 V and 6 V. */
const aboutToCharge = fc.constantFrom(
  () => brought('BK-A12/55').triage(12.1).route('slow-charge'),
  () => brought('LW-A6/12').triage(6).route('slow-charge'),
  () => brought('BK-F12/70').triage(11.9).route('constant-current'),
  () => brought('BK-A12/55').triage(12.2).route('pulse'),
  () => brought('BK-A12/55').triage(5).route('supply-wake').affirm('supply-polarity'),
);

/** Before the load comes off: in a cycle, and in a proof. */
const aboutToDraw = fc.constantFrom(
  () =>
    new TestJob('BK-A12/55', {}, undefined, 'recover-agm')
      .triage(12.7)
      .route('cycle')
      .affirm('cycle-start')
      .wait(200),
  () =>
    new TestJob('BK-A12/55', {}, undefined, 'recover-agm')
      .triage(12.2)
      .slowCharge()
      .route('prove')
      .affirm('prove-off')
      .wait(24 * 60)
      .measure('prove-ocv', { ocvV: 12.8, tempC: 21 })
      .leaveOut('prove-load'),
);

const stepIdOf = (entry: Entry): string =>
  'step' in entry.payload ? (entry.payload.step.split('#')[0] ?? '') : '';

describe('whatever is entered in a recovery', () => {
  it('no route is taken that safety vetoes, reason or not', () => {
    fc.assert(
      fc.property(starts, doings, (start, list) => {
        play(start(), list, (before, _after, entry) => {
          if (entry.kind !== 'routed') return;
          const step = before.steps[before.cursor];
          const route = AGM_ROUTES.find(({ id }) => id === entry.payload.route);
          const veto = route?.veto(contextOf(before, step?.round ?? 1));
          expect(
            veto === undefined || veto.canOverride,
            `${entry.payload.route}: ${veto?.why ?? ''}`,
          ).to.equal(true);
        });
      }),
      { numRuns: 150 },
    );
  });

  it('no charger goes on that the judge refuses', () => {
    let started = 0;
    fc.assert(
      fc.property(aboutToCharge, doings, (start, list) => {
        play(start(), list, (before, _after, entry) => {
          if (entry.kind !== 'chargeStarted' || !entry.payload.charger) return;
          const step = before.steps[before.cursor];
          const definition = step && definitionOf(before, step);
          if (definition?.kind !== 'charge' || !definition.treatment) return;
          const context = contextOf(before, step?.round ?? 1);
          started += 1;
          expect(
            chargerMisfit(entry.payload.charger, definition.treatment(context), context, step?.stepId ?? ''),
          ).to.equal(undefined);
        });
      }),
      { numRuns: 200, seed: 1313 },
    );
    expect(started, 'chargers that did go on').to.be.greaterThan(10);
  });

  it('what was discharged is charged before it is drawn from or proven again, in whatever order', () => {
    let drawn = 0;
    fc.assert(
      fc.property(aboutToDraw, doings, (start, list) => {
        play(start(), list, (before, after, entry) => {
          const was = contextOf(before, before.steps[before.cursor]?.round ?? 1);
          if (entry.kind === 'measured' && ['cycle-end', 'prove-capacity'].includes(stepIdOf(entry))) {
            if (after.steps[after.cursor - 1]?.status !== 'done') return;
            drawn += 1;
            const next = after.steps[after.cursor];
            expect(next && definitionOf(after, next).kind, 'what follows a discharge').to.equal('charge');
          }
          if (entry.kind === 'routed' && isDrawnDown(was))
            expect(['cycle', 'prove'], 'routes from a discharged battery').not.to.include(
              entry.payload.route,
            );
        });
      }),
      { numRuns: 200, seed: 1314 },
    );
    expect(drawn, 'discharges that came to their end').to.be.greaterThan(10);
  });

  it('a charge a stop rule has ended never goes on again, and no current passes its limit', () => {
    fc.assert(
      fc.property(starts, doings, (start, list) => {
        play(start(), list, (before, after) => {
          for (const [index, step] of after.steps.entries()) {
            const { charge } = step;
            if (!charge) continue;
            const definition = definitionOf(after, step);
            const treatment =
              definition.kind === 'charge' ? definition.treatment?.(contextOf(after, step.round)) : undefined;
            if (treatment) expect(charge.currentA).to.be.at.most(treatment.mostA + 1e-9);
            const was = before.steps[index]?.charge;
            if (was?.stopped) expect(charge.stopped).to.deep.equal(was.stopped);
            if (was?.stopped && !isOn(was)) expect(isOn(charge)).to.equal(false);
          }
        });
      }),
      { numRuns: 150 },
    );
  });

  it('a job never ends, and no route is left, with the charger on', () => {
    fc.assert(
      fc.property(starts, doings, (start, list) => {
        play(start(), list, (before, after, entry) => {
          const step = before.steps[before.cursor];
          const wasOn = step?.charge !== undefined && isOn(step.charge);
          if (wasOn && (entry.kind === 'routeLeft' || entry.kind === 'routed' || entry.kind === 'decided'))
            expect.fail(`${entry.kind} was taken with the charger on`);
          if (after.outcome !== undefined)
            expect(after.steps.some(({ charge }) => charge && charge.runs.at(-1)?.to === undefined)).to.equal(
              false,
            );
        });
      }),
      { numRuns: 150 },
    );
  });

  it('replay gives the very state that was lived through', () => {
    fc.assert(
      fc.property(starts, doings, (start, list) => {
        const job = play(start(), list, () => undefined);
        expect(foldJob(job.log).state).to.deep.equal(job.state);
      }),
      { numRuns: 60 },
    );
  });
});
