/** What holds of every plan, whatever the battery, its age, the hour it comes and the hours of the shop. */
import { expect } from 'chai';
import fc from 'fast-check';
import { CATALOGUE } from '../demo/catalogue.ts';
import type { BatteryType } from '../battery/types.ts';
import { openSpanFrom, type ShopHours } from '../clock/shopHours.ts';
import { EDITION, type OpenedPayload } from './entries/events.ts';
import { chargedAtIfFilled, forecast } from './plan/forecast.ts';
import { guardHold } from './plan/guards.ts';
import { STANDARD_RULES } from '../rules/houseRules.ts';
import { planIntake } from '../schedule/intakePlan.ts';
import { procedureFor } from './procedures/procedures.ts';
import { openJob } from './log/reduce.ts';
import { definitionOf } from './state/sheet.ts';
import type { JobState } from './state/jobState.ts';

const HOUR = 3_600_000;
const TYPES = CATALOGUE.filter((type) => procedureFor(type) !== undefined);
const DAY_OF = Date.parse('2026-03-10T00:00:00Z');

/** A shop that opens at eight, closes at an hour, is shut on Sundays and sooner on Saturdays. */
const hoursUntil = (close: number): ShopHours => {
  const day = [8 * 60, close * 60] as const;
  return { timeZone: 'Etc/UTC', week: [null, day, day, day, day, day, [9 * 60, 13 * 60]] };
};

const monthsBack = (months: number): string => {
  const all = 2026 * 12 + 2 - months;
  return `${Math.floor(all / 12)}-${String((all % 12) + 1).padStart(2, '0')}`;
};

function openedWith(type: BatteryType, months: number, close: number): OpenedPayload {
  return {
    edition: EDITION,
    procedure: procedureFor(type)?.id ?? '',
    battery: { tag: 'SK-0001', serial: '', dateCode: monthsBack(months), owner: 'stock' },
    type,
    rules: STANDARD_RULES,
    hours: hoursUntil(close),
    bay: 1,
    promisedAt: DAY_OF + 14 * 24 * HOUR,
  };
}

const guardedIndex = (state: JobState): number =>
  state.steps.findIndex((step) => {
    const definition = definitionOf(state, step);
    return definition.kind === 'gate' && definition.guard !== undefined;
  });

const aType = fc.constantFrom(...TYPES);
const anAge = fc.integer({ min: 0, max: 60 });
const aClose = fc.integer({ min: 14, max: 23 });
/** Any minute of six days. */
const aMoment = fc.integer({ min: 0, max: 6 * 24 * 60 }).map((minute) => DAY_OF + minute * 60_000);

describe('every plan', () => {
  it('older stock is never ready sooner than fresh stock of its type', () => {
    fc.assert(
      fc.property(aType, anAge, anAge, aClose, aMoment, (type, one, other, close, at) => {
        const [fresh, old] = [Math.min(one, other), Math.max(one, other)].map(
          (months) => planIntake(openedWith(type, months, close), at).readyAt,
        ) as [number, number];
        expect(old).to.be.at.least(fresh);
      }),
      { numRuns: 60, seed: 1301 },
    );
  });

  it('acid goes in only where it is charged before closing, or where no day is long enough, at an opening', () => {
    fc.assert(
      fc.property(aType, anAge, aClose, aMoment, (type, months, close, at) => {
        const plan = planIntake(openedWith(type, months, close), at);
        const index = guardedIndex(plan.state);
        if (index < 0 || plan.fillAt === undefined) return;
        const span = openSpanFrom(plan.state.opened.hours, plan.fillAt);
        expect(plan.fillAt).to.be.within(span.from, span.to - 1);
        const isChargedInTime = chargedAtIfFilled(plan.state, index, plan.fillAt) <= span.to;
        expect(isChargedInTime || plan.risks.some(({ isSerious }) => isSerious)).to.equal(true);
      }),
      { numRuns: 60, seed: 1302 },
    );
  });

  it('the moment a hold names to fill is one the gate lets pass, and never closing time', () => {
    fc.assert(
      fc.property(aType, anAge, aClose, aMoment, (type, months, close, at) => {
        const opened = openedWith(type, months, close);
        const state = openJob({ job: 'j', seq: 1, key: '#1', at, by: '', kind: 'opened', payload: opened });
        const index = guardedIndex(state);
        if (index < 0) return;
        const held = guardHold('fill-and-charge-same-day', state, index, at);
        const named = held && /fill it (?:\w+ )?(\d\d:\d\d)\.$/.exec(held.why)?.[1];
        if (named === undefined) return;
        expect(named).not.to.equal(`${close}:00`);
        expect(named).to.match(/^0[89]:/);
      }),
      { numRuns: 60, seed: 1303 },
    );
  });

  it('what Intake says of filling today is what the run sheet says once hands are there', () => {
    fc.assert(
      fc.property(aType, anAge, aClose, aMoment, (type, months, close, at) => {
        const plan = planIntake(openedWith(type, months, close), at);
        const index = guardedIndex(plan.state);
        if (index < 0) return;
        const before = forecast(plan.state, at).knots.filter(({ key }) =>
          plan.state.steps.slice(0, index).some((step) => step.key === key),
        );
        const last = before.at(-1);
        const lastStep = plan.state.steps[index - 1];
        if (!last || !lastStep) return;
        const thereAt = last.at + definitionOf(plan.state, lastStep).handsMin * 60_000;
        const atTheBench = guardHold('fill-and-charge-same-day', plan.state, index, thereAt);
        const saysIntake = plan.risks.some(({ sentence }) => sentence === atTheBench?.why);
        expect(saysIntake).to.equal(atTheBench !== undefined);
      }),
      { numRuns: 60, seed: 1304 },
    );
  });
});
