import { expect } from 'chai';
import { HOURS, MORNING } from '../test/testJob.ts';
import type { Due } from './due.ts';
import { dayWords, minutesOf, monthOf, quietFrom, type ShelfDay } from './month.ts';
import type { Shelved } from './overview.ts';
import { DAY_MS } from './warmth.ts';

/** One that wants this; nothing else of it matters to its day. */
const wants = (index: number, ...due: readonly Omit<Due, 'because'>[]): Shelved => ({
  tag: `SK-${String(index).padStart(4, '0')}`,
  typeId: 'LW-A12/9',
  serial: '',
  type: 'AGM 12 V 9 Ah',
  cells: 6,
  construction: 'agm',
  owner: 'stock',
  dateCode: '2026-01',
  grade: null,
  rechargeV: 12.6,
  harmV: 12.4,
  due: due.map((one) => ({ ...one, because: '' })),
});

const tasksIn = (days: readonly ShelfDay[]): number => days.reduce((sum, { tasks }) => sum + tasks.length, 0);

describe('the month’s work on the shelf', () => {
  it('forty charges due on one morning are spread over the days before it, none late', () => {
    const by = MORNING + 9 * DAY_MS;
    const days = monthOf(
      Array.from({ length: 40 }, (_, index) => wants(index, { want: 'recharge', by })),
      HOURS,
      MORNING,
    );
    expect(tasksIn(days)).to.equal(40);
    for (const { at, tasks } of days) {
      expect(at).to.be.at.most(by);
      expect(tasks.length).to.be.at.most(6);
    }
  });

  it('what is late is caught up with within a working week, what nears its harm line first', () => {
    const late = Array.from({ length: 20 }, (_, index) =>
      wants(index, { want: 'recharge', by: MORNING - DAY_MS }),
    );
    const line = { early: MORNING + DAY_MS / 2, likely: MORNING + DAY_MS, late: MORNING + 9 * DAY_MS };
    const nearly = {
      ...wants(99, { want: 'recharge', by: MORNING - DAY_MS }),
      prediction: { harm: line },
    } as unknown as Shelved;
    const days = monthOf([...late, nearly], HOURS, MORNING);
    expect(days[0]?.tasks.map(({ one }) => one.tag)).to.include('SK-0099');
    for (const { at } of days) expect(at).to.be.at.most(MORNING + 5 * DAY_MS);
    expect(Math.max(...days.map(({ tasks }) => tasks.length))).to.be.at.most(6);
  });

  it('reads none that is charged by then', () => {
    const both = wants(
      1,
      { want: 'read', by: MORNING + DAY_MS },
      { want: 'recharge', by: MORNING + 13 * DAY_MS },
    );
    const reads = Array.from({ length: 30 }, (_, index) =>
      wants(index + 2, { want: 'recharge', by: MORNING + 2 * DAY_MS }),
    );
    const all = monthOf([both, ...reads], HOURS, MORNING).flatMap(({ at, tasks }) =>
      tasks.filter(({ one }) => one.tag === both.tag).map(({ want }) => ({ at, want })),
    );
    const charge = all.find(({ want }) => want === 'recharge');
    for (const { at, want } of all) if (want === 'read') expect(at).to.be.below(charge?.at ?? 0);
    expect(charge).to.not.equal(undefined);
  });

  it('nothing falls on a day the shop is closed', () => {
    const all = Array.from({ length: 60 }, (_, index) =>
      wants(index, { want: 'read', by: MORNING + (index % 30) * DAY_MS }),
    );
    const days = monthOf(all, HOURS, MORNING);
    expect(tasksIn(days)).to.equal(60);
    for (const { at } of days) expect(new Date(at).getUTCDay(), new Date(at).toISOString()).to.not.equal(0);
  });

  it('counts what a day takes of hands, in words', () => {
    const tasks = [
      { one: wants(1), want: 'read', by: 0 },
      { one: wants(2), want: 'read', by: 0 },
      { one: wants(3), want: 'recharge', by: 0 },
    ] as const;
    expect(dayWords({ tasks, minutes: minutesOf(tasks) })).to.equal('2 to read, 1 to charge, about 8 min');
    expect(minutesOf([])).to.equal(0);
  });

  it('waits for the bench: the first gap that is long enough', () => {
    const visit = (fromMin: number, toMin: number) => ({ from: fromMin * 60_000, to: toMin * 60_000 });
    const minute = (at: number): number => at / 60_000;
    expect(quietFrom([], 10, 0)).to.equal(0);
    expect(minute(quietFrom([visit(5, 8)], 10, 0))).to.equal(8);
    expect(minute(quietFrom([visit(20, 25), visit(5, 8)], 10, 0))).to.equal(8);
    expect(minute(quietFrom([visit(5, 8), visit(15, 20)], 10, 0))).to.equal(20);
    expect(minute(quietFrom([visit(30, 31)], 10, 0))).to.equal(0);
  });
});
