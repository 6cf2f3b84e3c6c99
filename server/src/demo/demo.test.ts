import { expect } from 'chai';
import type { JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import { foldJob } from '@cork-ember/core/runsheet/log/fold.ts';
import { findingOf } from '@cork-ember/core/ledger/finding.ts';
import { SET_LIMITS, setsOf, shelfOf } from '@cork-ember/core/ledger/sets.ts';
import { gainsOf } from '@cork-ember/core/runsheet/outcome/gain.ts';
import { gradedFrom } from '@cork-ember/core/runsheet/verdict/proof.ts';
import { contextOf } from '@cork-ember/core/runsheet/state/context.ts';
import { readingsFrom } from '@cork-ember/core/runsheet/state/looks.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import type { JobStore } from '../store/jobStore.ts';
import { seedDemo } from './seed.ts';
import { demoMoment, SKERRY } from './skerry.ts';

/** Every weekday the demo may begin on, and a turn of the year. */
const BEGINNINGS = ['2026-03-09', '2026-03-10', '2026-03-13', '2026-03-15', '2026-01-01'];

async function told(day: string): Promise<JobState[]> {
  const jobs: JobState[] = [];
  const store = {
    keeping: (events: readonly JobEvent[]) => {
      jobs.push(foldJob(events).state);
      return Promise.resolve({ entries: [], names: [] });
    },
    createJob: () => Promise.resolve(),
  } as unknown as JobStore;
  await seedDemo(store, SKERRY, demoMoment(Date.parse(`${day}T15:00:00Z`), 'Etc/UTC'));
  return jobs;
}

/** The latest job of each battery. */
const seeded = async (day: string): Promise<Map<string, JobState>> =>
  new Map((await told(day)).map((state) => [state.opened.battery.tag, state]));

const stepOf = (state: JobState | undefined): string | undefined => state?.steps[state.cursor]?.stepId;
const gradeOf = (state: JobState | undefined): string => {
  const round = state?.steps.findLast(({ stepId }) => stepId === 'prove-ocv')?.round ?? 1;
  return state ? gradedFrom(contextOf(state, round)).grade : '';
};

describe('the demo shop', () => {
  for (const day of BEGINNINGS)
    it(`begins whole on ${day}, no two batteries in a bay`, async () => {
      const jobs = await seeded(day);
      const bays = [...jobs.values()].filter(({ outcome }) => !outcome).map(({ opened: { bay } }) => bay);
      expect(new Set(bays).size).to.equal(bays.length);
      expect(jobs.size).to.equal(24);
    });

  it('has recoveries in every stage', async () => {
    const jobs = await seeded('2026-03-10');
    expect(stepOf(jobs.get('SK-0104'))).to.equal('donor-hour');
    expect(stepOf(jobs.get('SK-0105'))).to.equal('pulse');
    expect(stepOf(jobs.get('SK-0106'))).to.equal('choose-route');
    expect(stepOf(jobs.get('SK-0107'))).to.equal('choose-route');
    expect(jobs.get('SK-0103')?.outcome).to.equal('retired');
    expect(jobs.get('SK-0101')?.outcome).to.equal('recovered');
    expect([gradeOf(jobs.get('SK-0101')), gradeOf(jobs.get('SK-0102'))]).to.deep.equal(['A', 'B']);
  });

  it('found a shorted cell by heat and by its silence on charge', async () => {
    const state = (await seeded('2026-03-10')).get('SK-0106');
    const looks = readingsFrom(state?.readings, 'slow#1');
    // It stalls a cell short; then the five good ones fill and gas, and the voltage alone tells no more.
    expect(looks.slice(0, 4).every(({ voltageV }) => voltageV < 12)).to.equal(true);
    expect(looks.at(-1)?.voltageV).to.be.greaterThan(13.5);
    const seen = state?.evidence?.map(({ reading }) => reading) ?? [];
    expect(seen.flatMap((one) => (one.kind === 'bubbles' ? one.bubbles : []))).to.deep.equal(
      [1, 2, 3, 4, 5, 6].map((cell) => (cell === 3 ? 'none' : 'lively')),
    );
    const warm = seen.flatMap((one) => (one.kind === 'warmth' ? one.cells : []));
    const others = warm.flatMap(({ cell, tempC }) => (cell === 3 ? [] : tempC));
    expect(warm[2]?.tempC).to.be.greaterThan(Math.max(...others) + 3);
    expect(state?.routes?.[0]?.leftFor).to.include('cell 3');
  });

  it('found one that looked fine and collapsed under load', async () => {
    const state = (await seeded('2026-03-10')).get('SK-0103');
    const first = state?.steps.find(({ stepId }) => stepId === 'first-ocv')?.values?.['ocvV'];
    const load = state?.evidence?.find(({ reading }) => reading.kind === 'load')?.reading;
    expect(first).to.be.greaterThan(12.4);
    expect(load?.kind === 'load' && load.volts).to.be.lessThan(7);
  });

  it('the ferry’s set makes pairs, and its bad one went to the recycler', async () => {
    const findings = [...(await seeded('2026-03-10')).values()].flatMap((state) => findingOf(state) ?? []);
    const sets = setsOf(shelfOf(findings).members, 2, SET_LIMITS.handbook).map((set) =>
      set.members.map(({ tag }) => tag).join('+'),
    );
    expect(sets).to.include.members(['SK-0091+SK-0092', 'SK-0093+SK-0094']);
    expect(findings.find(({ tag }) => tag === 'SK-0095')?.grade).to.equal('R');
  });

  it('knows the caravan’s battery of old: less of it every winter', async () => {
    const life = (await told('2026-03-10')).flatMap((state) => findingOf(state) ?? []);
    const shares = life.flatMap(({ tag, capacityShare }) =>
      tag === 'SK-0102' && capacityShare !== undefined ? [capacityShare] : [],
    );
    expect(shares).to.have.length(3);
    expect(shares).to.deep.equal([...shares].sort((a, b) => b - a));
  });

  it('tells what the finished ones gained', async () => {
    const state = (await seeded('2026-03-10')).get('SK-0102');
    const cranking = state && gainsOf(state).find(({ what }) => what === 'Cranking');
    expect(cranking?.gain).to.be.greaterThan(2);
  });
});
