/** An ended job of the demo over HTTP: its log, its papers, its file, and what is changed of it afterwards. */
import type { CheckAnswer, JobAnswer, Problem } from '@cork-ember/core/contract/answers.ts';
import type { ChainedEntry } from '../src/record/chain.ts';
import type { FileSeal } from '../src/record/fileReader.ts';
import type { KeptName } from '../src/record/names.ts';
import type { TestShop } from './testShop.ts';

/** Jobs of SK-0121, which was certified, and of SK-0144, which stands in bay 4. */
export const CERTIFIED = '5ce77e00-0000-4000-8000-000000000121';
export const OPEN = '5ce77e00-0000-4000-8000-000000000144';
export const WHY = 'the meter was read wrongly';

/** A job's file, of today's version. */
export interface RecordFile {
  readonly format: 'cork-ember-job';
  readonly version: 3;
  readonly job: string;
  readonly entries: readonly ChainedEntry[];
  readonly names: readonly KeptName[];
  readonly seals: readonly FileSeal[];
  readonly photos: readonly { readonly id: string; readonly jpeg: string }[];
}

export const detailOf = ({ body }: { body: unknown }): string => (body as Problem).detail;

export const answerOf = async ({ api }: TestShop, id: string): Promise<JobAnswer> =>
  (await api.get(`/api/jobs/${id}`).expect(200)).body as JobAnswer;

export const fileOf = async ({ api }: TestShop, id: string): Promise<RecordFile> =>
  (await api.get(`/api/jobs/${id}/export`).expect(200)).body as RecordFile;

export const checkOf = async ({ api }: TestShop, code: string): Promise<CheckAnswer> =>
  (await api.get(`/api/check/${code}`).expect(200)).body as CheckAnswer;

/** Its reading at rest after the soak. */
export async function rested(shop: TestShop, id: string): Promise<JobAnswer['events'][number]> {
  const found = (await answerOf(shop, id)).events.find(
    ({ kind, payload }) => kind === 'measured' && payload.step === 'ocv-soak#1',
  );
  if (!found) throw new Error('it was not read at rest');
  return found;
}

/** Amends that reading; the next issue of the papers comes out with both. */
export async function amend(shop: TestShop, id: string, ocvV: number) {
  const { key } = await rested(shop, id);
  const payload = { step: 'ocv-soak#1', values: { ocvV, tempC: 26 }, source: 'keypad' };
  const { events } = await answerOf(shop, id);
  return shop.append(id, events.length, {
    kind: 'amended',
    payload: { changes: [{ replaces: key, payload }], why: WHY },
  });
}

/** Takes its ending back, into a bay. */
export async function reopen(shop: TestShop, id: string, bay: number) {
  const { events } = await answerOf(shop, id);
  const ending = events.findLast(({ kind }) => kind === 'affirmed' || kind === 'withdrawn')?.key ?? '';
  return shop.append(id, events.length, { kind: 'reopened', payload: { ending, bay, why: WHY } });
}
