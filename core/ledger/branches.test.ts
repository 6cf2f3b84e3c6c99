import { expect } from 'chai';
import { ledgerFileIn } from '../contract/ledgerFile.ts';
import { joined, newestOfEach, type LedgerFile } from './branches.ts';
import type { Finding } from './finding.ts';

const COSTS = { handsPerHour: 30, bayPerHour: 1, pricePerKwh: 0.3 } as never;

const finding = (job: number, more: Partial<Finding> = {}): Finding => ({
  job: `00000000-0000-4000-8000-${String(job).padStart(12, '0')}`,
  tag: `A-${job}`,
  typeId: 'LW-A12/9',
  construction: 'agm',
  dateCode: '2024-03',
  endedAt: job,
  outcome: 'recovered',
  grade: 'A',
  routes: [{ id: 'soak', title: 'Soak' }],
  spent: { handsMin: 10 * job, bayH: 1, mainsWh: 1, waterMl: 0 },
  ...more,
});

const file = (shop: string, at: number, findings: readonly Finding[]): LedgerFile => ({
  format: 'cork-ember-ledger',
  version: 1,
  program: '0.2.0',
  shop,
  at,
  findings,
});

describe('ledgers of several shops', () => {
  it('stand beside each other, this one first, and their jobs together', () => {
    const own = file('Skerry', 5, [finding(1), finding(2, { grade: 'R', outcome: 'retired' })]);
    const holm = file('Holm', 6, [
      finding(3, { grade: 'C' }),
      finding(4, { routes: [], outcome: 'certified' }),
    ]);
    const { branches } = joined(own, [holm], COSTS);
    expect(
      branches.map(({ shop, jobs, good, usable, retired, handsMin }) => [
        shop,
        jobs,
        good,
        usable,
        retired,
        handsMin,
      ]),
    ).to.deep.equal([
      ['Skerry', 2, 1, 0, 1, 15],
      ['Holm', 2, 1, 1, 0, 35],
    ]);
    expect(branches.map(({ at }) => at)).to.deep.equal([undefined, 6]);
  });

  it('count a job once that went along with its battery, and a shop once whose file was read twice', () => {
    const own = file('Skerry', 5, [finding(1)]);
    const [older, newer] = [file('Holm', 6, [finding(3)]), file('Holm', 7, [finding(1), finding(3)])];
    expect(newestOfEach([newer, older])).to.deep.equal([newer]);
    const { branches, ways } = joined(own, [older, newer, file('Skerry', 9, [finding(8)])], COSTS);
    expect(branches.map(({ shop }) => shop)).to.deep.equal(['Skerry', 'Holm']);
    for (const { tried } of ways) expect(tried).to.equal(2);
  });

  it('of a shop that has done nothing yet have no mean', () => {
    expect(joined(file('New', 1, []), [], COSTS).branches[0]?.handsMin).to.equal(undefined);
  });

  it('are read from files alone that are one, and what is wrong is said', () => {
    const written = file('Holm', 6, [finding(3)]);
    expect(ledgerFileIn(JSON.stringify(written))).to.deep.equal(written);
    for (const [text, says] of [
      ['not json', 'not even JSON'],
      ['{"format":"cork-ember-job"}', 'it does not say that it is one'],
      [JSON.stringify({ ...written, findings: [{ ...finding(3), grade: 'Z' }] }), '"findings[0].grade"'],
    ] as const)
      expect(() => ledgerFileIn(text)).to.throw(RangeError, says);
  });
});
