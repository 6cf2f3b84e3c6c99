import { expect } from 'chai';
import highsLoader from 'highs';
import { CATALOGUE } from '../demo/catalogue.ts';
import { CHARGERS } from '../charge/chargers.ts';
import type { Charger } from '../charge/charger.ts';
import { randomFrom } from '../test/seeded.ts';
import { STANDARD_RULES } from '../rules/houseRules.ts';
import { procedureFor } from '../runsheet/procedures/procedures.ts';
import { HOURS, MORNING } from '../test/testJob.ts';
import { localText } from '../clock/localTime.ts';
import { LINE, helpFor, Planner, SLOT_MIN, type Plan, type PlanBattery, type PlanTask } from './planner.ts';
import { openSpanFrom, type ShopHours } from '../clock/shopHours.ts';

const SLOT = SLOT_MIN * 60_000;
const HOUR = 3_600_000;
const TYPES = ['LW-A12/9', 'LW-A12/4', 'TQ-A12/20', 'TQ-F12/14', 'BK-S12/75', 'LW-A6/12'] as const;

function charger(id: string): Charger {
  const found = CHARGERS.find((one) => one.id === id);
  if (!found) throw new Error(`no charger ${id}`);
  return found;
}

function battery(id: string, typeId: string, dueAt: number): PlanBattery {
  const type = CATALOGUE.find((one) => one.id === typeId);
  const procedure = type && procedureFor(type);
  if (!type || !procedure) throw new Error(`no type ${typeId}`);
  return {
    id,
    dueAt,
    opened: {
      procedure: procedure.id,
      battery: { tag: id, serial: '', dateCode: '2026-01', owner: 'stock' },
      type,
      rules: STANDARD_RULES,
      hours: HOURS,
      bay: 1,
      promisedAt: dueAt,
    },
  };
}

function taskOf(batteries: readonly PlanBattery[], bays = 3, hands = 1): PlanTask {
  return {
    now: MORNING,
    hours: HOURS,
    bays: Array.from({ length: bays }, (_, i) => ({
      number: i + 1,
      charger: charger(i % 3 === 2 ? 'bench' : 'supply'),
      freeAt: MORNING,
    })),
    hands,
    batteries,
    busy: [],
  };
}

function randomTask(seed: number, count: number, bays: number): PlanTask {
  const random = randomFrom(seed);
  const batteries = Array.from({ length: count }, (_, i) =>
    battery(
      `B${i + 1}`,
      TYPES[Math.floor(random() * TYPES.length)] ?? 'LW-A12/9',
      MORNING + (8 + random() * 50) * HOUR,
    ),
  );
  return taskOf(batteries, bays);
}

/** Cost of the best plan there is, by integer programming over battery, bay and start. */
async function optimum(task: PlanTask, slots: number): Promise<number> {
  const highs = await highsLoader();
  const planner = new Planner(task);
  const cost: string[] = [];
  const once = new Map<string, string[]>();
  const bayAt = new Map<string, string[]>();
  const handsAt = new Map<number, string[]>();
  const names: string[] = [];
  const push = <K>(map: Map<K, string[]>, key: K, term: string): void =>
    void map.set(key, [...(map.get(key) ?? []), term]);
  for (const one of task.batteries)
    for (const bay of task.bays)
      for (let start = 0; start < slots * LINE; start++) {
        const [slot, inLine] = [Math.floor(start / LINE), start % LINE];
        const option = planner.option(one, bay, slot, inLine);
        if (!option) continue;
        const { layout } = option;
        const name = `x_${one.id}_${bay.number}_${slot}_${inLine}`;
        names.push(name);
        const late = Math.max(0, (layout.readyAt - one.dueAt) / 60_000);
        cost.push(`${(late + (0.0005 * (layout.readyAt - task.now)) / HOUR).toFixed(6)} ${name}`);
        push(once, one.id, name);
        const until = Math.ceil((layout.readyAt - task.now) / SLOT);
        for (let at = slot; at < until; at++) push(bayAt, `${bay.number}_${at}`, name);
        option.slots.forEach((at, i) => push(handsAt, at, `${option.minutes[i]?.toFixed(6)} ${name}`));
      }
  const rows = [
    ...[...once.values()].map((terms) => `${terms.join(' + ')} = 1`),
    ...[...bayAt.values()].filter((terms) => terms.length > 1).map((terms) => `${terms.join(' + ')} <= 1`),
    ...[...handsAt.values()].map((terms) => `${terms.join(' + ')} <= ${task.hands * SLOT_MIN}`),
  ];
  const lp = `Minimize\n obj: ${cost.join(' + ')}\nSubject To\n${rows.map((row, i) => ` r${i}: ${row}`).join('\n')}\nBinary\n ${names.join(' ')}\nEnd`;
  const solved = highs.solve(lp, { mip_rel_gap: 0.001 });
  expect(solved.Status).to.equal('Optimal');
  return solved.ObjectiveValue;
}

/** What holds of every plan. */
function assertSound(task: PlanTask, plan: Plan): void {
  const minutes = new Map<number, number>();
  for (const { layout } of plan.assignments)
    for (const { from, to } of layout.placed.filter(({ kind }) => kind === 'hands'))
      for (let at = from; at < to; at += 60_000) {
        const slot = Math.floor((at - task.now) / SLOT);
        minutes.set(slot, (minutes.get(slot) ?? 0) + Math.min(1, (to - at) / 60_000));
      }
  for (const [slot, used] of minutes)
    expect(used, `slot ${slot}`).to.be.at.most(task.hands * SLOT_MIN + 1e-6);
  for (const bay of task.bays) {
    const held = plan.assignments
      .filter((one) => one.bay === bay.number)
      .map(({ layout }) => layout)
      .sort((a, b) => a.from - b.from);
    held.slice(1).forEach((next, i) => expect(next.from).to.be.at.least(held[i]?.readyAt ?? 0));
  }
}

describe('the promise planner', () => {
  it('never asks one bay for two batteries, nor for more hands than there are', () => {
    for (let seed = 1; seed <= 8; seed++) {
      const task = randomTask(seed, 9, 3);
      assertSound(task, new Planner(task).best(200));
    }
  });

  it('is never worse than first come, first served', () => {
    for (let seed = 20; seed <= 30; seed++) {
      const task = randomTask(seed, 10, 3);
      const planner = new Planner(task);
      expect(planner.best(200).cost).to.be.at.most(planner.planOf(task.batteries).cost + 1e-9);
    }
  });

  for (const [seed, count, bays] of [
    [1, 4, 2],
    [2, 5, 2],
    [3, 6, 3],
    [4, 6, 2],
  ] as const)
    it(`lies within 5 % of the optimum: ${count} batteries in ${bays} bays`, async () => {
      const task = randomTask(seed, count, bays);
      const found = new Planner(task).best();
      expect(found.impossible).to.deep.equal([]);
      const least = await optimum(task, 4 * 24 * 4);
      expect(found.cost).to.be.at.least(least - 0.01 * least - 1);
      expect(found.cost).to.be.at.most(least * 1.05 + 1);
    }).timeout(120_000);

  it('keeps fill and charge on one day: what comes at four is filled tomorrow', () => {
    const late = { ...taskOf([battery('B1', 'TQ-A12/20', MORNING + 60 * HOUR)]), now: MORNING + 8 * HOUR };
    const [only] = new Planner(late).best().assignments;
    expect(new Date(only?.layout.from ?? 0).toISOString().slice(0, 10)).to.equal('2026-03-11');
  });

  it('on the day the clocks change hands begin by the wall clock, and none is at lunch', () => {
    const zone = 'Europe/Dublin';
    // Sunday, 29 March 2026: 02:00 is 03:00 in summer time.
    const night = Date.parse('2026-03-29T00:30:00Z');
    const hours: ShopHours = {
      timeZone: zone,
      week: Array.from({ length: 7 }, (): [number, number] => [8 * 60, 18 * 60]),
      lunch: [12 * 60, 13 * 60],
    };
    const one = battery('B1', 'LW-A12/9', night + 40 * HOUR);
    const task: PlanTask = {
      ...taskOf([{ ...one, opened: { ...one.opened, hours } }], 1),
      now: night,
      hours,
      bays: [{ number: 1, charger: charger('supply'), freeAt: night }],
    };
    const [only] = new Planner(task).best().assignments;
    if (!only) throw new Error('nothing was planned');
    expect(localText(only.layout.from, zone) >= '2026-03-29T08:00').to.equal(true);
    for (const { kind, from } of only.layout.placed) {
      const at = localText(from, zone).slice(11);
      if (kind === 'hands') expect(at < '12:00' || at >= '13:00', at).to.equal(true);
      if (kind === 'hands') expect(at >= '08:00' && at < '18:00', at).to.equal(true);
    }
  });

  it('a bay that looks by itself parts the battery in the night, without hands', () => {
    const one = battery('B1', 'LW-A12/9', MORNING + 60 * HOUR);
    const [byHand, alone] = [false, true].map((isAlone) => {
      const task = taskOf([one], 1);
      const bays = task.bays.map((bay) => ({ ...bay, isAlone }));
      return new Planner({ ...task, bays }).best().assignments[0]?.layout;
    });
    const partedBy = (layout: typeof alone) =>
      layout?.placed.find(({ title }) => title.includes('clips off'));
    expect(partedBy(byHand)?.kind).to.equal('hands');
    expect(partedBy(alone)).to.equal(undefined);
    expect(alone?.readyAt).to.be.at.most(byHand?.readyAt ?? 0);
  });

  it('twelve at once in bays that part them by themselves need fewer hands than twelve in others', () => {
    const task = randomTask(3, 12, 12);
    const late = [false, true].map((isAlone) => {
      const bays = task.bays.map((bay) => ({ ...bay, isAlone }));
      return new Planner({ ...task, bays }).best(60).cost;
    });
    expect(late[1]).to.be.below(late[0] ?? 0);
  });

  it('where nothing charges at night by the house’s rule, it is off at closing and on again in the morning', () => {
    const never = { ...STANDARD_RULES, unattended: 'never' as const };
    const one = battery('B1', 'TQ-A12/20', MORNING + 90 * HOUR);
    const task = taskOf([{ ...one, opened: { ...one.opened, rules: never } }], 1);
    const layout = new Planner({ ...task, now: MORNING + 6 * HOUR }).best().assignments[0]?.layout;
    const charges = layout?.placed.filter(({ kind }) => kind === 'charge') ?? [];
    expect(charges).to.have.length.above(1);
    for (const { from, to } of charges) {
      const span = openSpanFrom(HOURS, from);
      expect(from).to.be.at.least(span.from);
      expect(to).to.be.at.most(span.to);
    }
    expect(layout?.placed.filter(({ title }) => title === 'Resume the charge')).to.have.length(
      charges.length - 1,
    );
  });

  it('says why no charger of the shop suits', () => {
    const task = { ...taskOf([battery('B1', 'LW-A12/4', MORNING + 30 * HOUR)], 1) };
    const garage = { ...charger('bench'), name: 'Garage', leastA: 10, mostA: 30 };
    const plan = new Planner({ ...task, bays: [{ number: 1, charger: garage, freeAt: MORNING }] }).best();
    expect(plan.impossible).to.deep.equal([
      { id: 'B1', reason: 'Garage: gives 10 A at its lowest; this charge takes 0.40 A at most.' },
    ]);
  });

  it('names the one change that helps most, and says nothing where nothing is late', () => {
    const crowd = Array.from({ length: 6 }, (_, i) => battery(`B${i}`, 'LW-A12/9', MORNING + 9.5 * HOUR));
    const task = taskOf(crowd, 2, 2);
    const plan = new Planner(task).best();
    expect(plan.lateMin).to.be.above(0);
    const help = helpFor(task, plan, charger('supply'));
    expect(help?.sentence).to.include('one more charger');
    expect(help?.lateMin).to.be.below(plan.lateMin);
    const easy = taskOf([battery('B1', 'LW-A12/9', MORNING + 40 * HOUR)]);
    expect(helpFor(easy, new Planner(easy).best(), charger('supply'))).to.equal(undefined);
  });

  it('late minutes go before readiness: a whole delivery’s hours weigh less than five minutes', () => {
    const task = randomTask(11, 9, 3);
    const plan = new Planner(task).best(50);
    const readyH = plan.assignments.reduce((sum, { layout }) => sum + (layout.readyAt - task.now) / HOUR, 0);
    const lateAndMissing = plan.lateMin + plan.impossible.length * 7 * 24 * 60;
    expect(plan.cost - lateAndMissing).to.be.closeTo(0.0005 * readyH, 1e-9);
    expect(0.0005 * 30 * 14 * 24).to.be.lessThan(5.1);
  });
});
