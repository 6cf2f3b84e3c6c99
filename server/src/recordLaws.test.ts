/** Laws of the record, over HTTP: corrections, amendments, endings and endings taken back, in any order, by several jobs. */
import { expect } from 'chai';
import fc from 'fast-check';
import { foldJob, type Job } from '@cork-ember/core/runsheet/log/fold.ts';
import type { Entry } from '@cork-ember/core/runsheet/entries/events.ts';
import { openTestShop, requestKey, type TestShop } from '../test/testShop.ts';
import { chainBreak } from './record/chain.ts';
import { rebuild } from './services/projections.ts';

const IDS = [121, 117, 112, 144].map((tag) => `5ce77e00-0000-4000-8000-000000000${tag}`);
const WHY = 'the meter was read wrongly';
/** A bay of the demo that is free, the shelf, and a bay that is taken. */
const BAYS = [8, 8, 0, 4] as const;

const wish = fc.record({
  job: fc.nat(IDS.length - 1),
  what: fc.constantFrom('amended', 'reopened', 'reopened', 'ended', 'ended', 'corrected', 'undone', 'noted'),
  which: fc.nat(60),
  volts: fc.integer({ min: 1260, max: 1285 }),
  bay: fc.constantFrom(...BAYS),
});

type Wish = typeof wish extends fc.Arbitrary<infer T> ? T : never;

function entryFor({ log, state }: Job, { what, which, volts, bay }: Wish): Entry {
  const rested = log.findLast(({ kind, payload }) => kind === 'measured' && payload.step === 'ocv-soak#1');
  const any = log[which % log.length]?.key ?? '#1';
  const payload = { step: 'ocv-soak#1', values: { ocvV: volts / 100, tempC: 24 }, source: 'keypad' };
  switch (what) {
    case 'amended':
      return { kind: 'amended', payload: { changes: [{ replaces: rested?.key ?? any, payload }], why: WHY } };
    case 'reopened': {
      const ending = log.findLast(({ kind }) => kind === 'affirmed' || kind === 'withdrawn');
      return { kind: 'reopened', payload: { ending: ending?.key ?? any, bay, why: WHY } };
    }
    case 'ended': {
      const step = state.steps[state.cursor]?.key ?? '';
      return step.startsWith('certify')
        ? { kind: 'affirmed', payload: { step } }
        : { kind: 'withdrawn', payload: { reason: 'the owner came for it' } };
    }
    case 'corrected':
      return { kind: 'corrected', payload: { replaces: rested?.key ?? any, payload, why: WHY } };
    case 'undone':
      return { kind: 'undone', payload: { replaces: any } };
    default:
      return { kind: 'noted', payload: { text: `${volts}` } };
  }
}

describe('laws of the record', () => {
  let shop: TestShop;

  const check = async (seals: Map<string, string>): Promise<void> => {
    const { store, jobs, seals: sealed, lists } = shop.services;
    for (const id of IDS) {
      const kept = await store.kept(id);
      expect(chainBreak(kept.entries)).to.equal(undefined);
      const job = await jobs.job(id);
      expect(foldJob(job.log).state).to.deep.equal(job.state);
      for (const { code, issue, hash } of await sealed.seals(id)) {
        const name = `${id} ${issue}`;
        expect(seals.get(name) ?? hash, 'a seal never changes').to.equal(hash);
        seals.set(name, hash);
        expect((await shop.services.sealing.check(code)).broken).to.equal(undefined);
      }
    }
    const bays = (await store.jobs({ isOpen: true })).map(({ bay }) => bay).filter((bay) => bay !== 0);
    expect(new Set(bays).size, 'one battery to a bay').to.equal(bays.length);
    expect((await rebuild(store, lists)).mended, 'lists say what the record says').to.deep.equal([]);
  };

  it('hold whatever is asked: chains whole, seals as they were, one battery to a bay, lists as the record says', async function () {
    this.timeout(120_000);
    const taken = new Map<string, number>();
    await fc.assert(
      fc.asyncProperty(fc.array(wish, { minLength: 24, maxLength: 40 }), async (wishes) => {
        shop = await openTestShop();
        try {
          const seals = new Map<string, string>();
          await check(seals);
          for (const one of wishes) {
            const id = IDS[one.job] ?? '';
            const job = await shop.services.jobs.job(id);
            const answer = await shop.append(id, job.log.length, entryFor(job, one), {
              requestKey: requestKey(),
            });
            expect(answer.status, JSON.stringify(answer.body)).to.be.oneOf([201, 400, 409, 422]);
            if (answer.status === 201) taken.set(one.what, (taken.get(one.what) ?? 0) + 1);
          }
          await check(seals);
        } finally {
          await shop.cleanUp();
        }
      }),
      { seed: 15, numRuns: 4 },
    );
    for (const what of ['amended', 'reopened', 'ended']) expect(taken.get(what), what).to.be.greaterThan(2);
  });
});
