/** Seals what ended: puts its state and its papers down for good, and says later whether they still are what they were. */
import { createHash } from 'node:crypto';
import type { CheckAnswer, SealSummary } from '@cork-ember/core/contract/answers.ts';
import { findingOf } from '@cork-ember/core/ledger/finding.ts';
import { foldJob, type Job } from '@cork-ember/core/runsheet/log/fold.ts';
import type { JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import type { Outcome } from '@cork-ember/core/runsheet/definition/step.ts';
import { contentOf, type DocumentContent } from '../documents/content.ts';
import { ownersSheetOf } from '../documents/ownersSheet.ts';
import { reissued } from '../documents/reissue.ts';
import { warrantyRecordOf } from '../documents/warrantyRecord.ts';
import { ProblemError } from '../problems.ts';
import { chainBreak } from '../record/chain.ts';
import { commitmentsIn, withNames } from '../record/names.ts';
import {
  contentsOf,
  sealBreak,
  sealed,
  textOf,
  tidyCode,
  type PaperId,
  type Papers,
  type Seal,
  type SealContent,
} from '../record/seal.ts';
import type { JobStore } from '../store/jobStore.ts';
import type { SealStore } from '../store/sealStore.ts';
import { markedEvents, readJob } from './reading.ts';
import type { Photos } from './photos.ts';
import type { ShopSettings } from './shop.ts';

export const summaryOf = ({ issue, at, upTo, code }: SealSummary): SealSummary => ({ issue, at, upTo, code });

const GOOD: readonly (Outcome | undefined)[] = ['certified', 'recovered', 'charged'];
const isGood = ({ outcome }: JobState): boolean => GOOD.includes(outcome);

export class Sealing {
  private readonly store: JobStore;
  private readonly seals: SealStore;
  private readonly settings: ShopSettings;
  private readonly photos: Photos;

  constructor(store: JobStore, seals: SealStore, settings: ShopSettings, photos: Photos) {
    this.store = store;
    this.seals = seals;
    this.settings = settings;
    this.photos = photos;
  }

  /**
   * Prepares the seal of a job that has ended.
   * @param log its events, marks in place of customers' names
   * @returns what makes the seal once the hash of its last entry is known
   */
  async prepare(log: readonly JobEvent[], sealedAt: number): Promise<(chain: string) => Seal> {
    const job = foldJob(log);
    const before = (await this.seals.seals(job.state.job)).at(-1);
    const photos = (await this.photos.all(job.state.job)).map(({ id, bytes }) => ({
      id,
      sha256: createHash('sha256').update(bytes).digest('hex'),
    }));
    const papers = this.papersOf(job, before);
    return (chain) =>
      sealed(
        contentsOf(job, {
          issue: (before?.issue ?? 0) + 1,
          sealedAt,
          upTo: log.at(-1)?.seq ?? 0,
          chain,
          ...(before ? { replaces: before.hash } : {}),
          papers,
          photos,
        }),
      );
  }

  private papersOf(job: Job, before: SealSummary | undefined): Papers {
    const { shop } = this.settings;
    const issued = (content: DocumentContent): DocumentContent =>
      before ? reissued(content, job, before) : content;
    return {
      certificate: issued(contentOf(job, shop)),
      'warranty-record': issued(warrantyRecordOf(job, shop)),
      ...(isGood(job.state) ? { 'owner-sheet': issued(ownersSheetOf(job, shop)) } : {}),
    };
  }

  /**
   * The words of a paper as they were sealed.
   * @param issue the newest without it
   * @throws ProblemError where there is none
   */
  async paper(
    job: string,
    paper: PaperId,
    issue?: number,
  ): Promise<{ seal: Seal; latest: Seal; content: DocumentContent }> {
    const seals = await this.seals.seals(job);
    const latest = seals.at(-1);
    const seal = issue === undefined ? latest : seals.find((one) => one.issue === issue);
    if (!latest || !seal)
      throw new ProblemError(
        'refused',
        latest
          ? `There is no issue ${issue ?? ''} of these papers; the newest is ${latest.issue}.`
          : 'This job is still under way; its certificate comes at the end.',
      );
    const content = (await this.contents(seal)).papers[paper];
    if (content) return { seal, latest, content };
    throw new ProblemError('refused', 'Only a battery that passed goes to an owner; this one did not.');
  }

  /** What a seal holds, with the names that are still kept. */
  private async contents(seal: Seal): Promise<SealContent> {
    const text = textOf(seal);
    const names = await this.seals.names(commitmentsIn(text));
    return JSON.parse(withNames(text, names)) as SealContent;
  }

  /**
   * Whether a paper and the record agree.
   * @throws ProblemError where no paper of this shop has the code
   */
  async check(typed: string): Promise<CheckAnswer> {
    const code = tidyCode(typed);
    const seal = await this.seals.sealOf(code);
    if (!seal)
      throw new ProblemError('not-found', `No paper of this shop has the check code ${code}: look again.`);
    const { job, issue, at } = seal;
    const { entries } = await this.store.kept(job);
    const latest = (await this.seals.seals(job)).at(-1);
    const { state, papers } = await this.contents(seal);
    const broken =
      chainBreak(entries) ?? sealBreak(seal, (seq) => entries.find((entry) => entry.seq === seq)?.hash);
    const paper = papers.certificate;
    return {
      code,
      ...(broken === undefined ? {} : { broken }),
      job,
      tag: state.opened.battery.tag,
      issue,
      at,
      title: paper?.title ?? '',
      verdict: paper?.verdict?.word ?? '',
      rows: [
        ...(paper?.sections.find(({ title }) => title === 'Battery')?.rows ?? []),
        ...(paper?.figures ?? []).map(({ label, value }) => [label, value] as const),
      ],
      signature: paper?.signature ?? '',
      ...(latest && latest.issue !== issue ? { latest: summaryOf(latest) } : {}),
    };
  }

  /**
   * Seals every job that ended before there were seals, as it reads today.
   * @param sealedAt when that is said to have been, ms
   * @param seen told of each that cannot be read
   */
  async sealPast(
    sealedAt: (state: JobState) => number,
    seen: (job: string, why: string) => void,
  ): Promise<void> {
    for (const id of await this.seals.unsealed()) {
      try {
        const kept = await this.store.kept(id);
        const { state } = readJob(kept);
        const make = await this.prepare(markedEvents(kept.entries), sealedAt(state));
        await this.seals.seal(make(kept.entries.at(-1)?.hash ?? ''), findingOf(state));
      } catch (error) {
        seen(id, error instanceof Error ? error.message : String(error));
      }
    }
  }
}
