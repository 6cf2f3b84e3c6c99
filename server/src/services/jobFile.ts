/** A job as a file: its entries with their hashes, the names they stand for, its seals and pictures; out and in again. */
import { deflateRawSync } from 'node:zlib';
import { fileTypeFromBuffer } from 'file-type';
import type { JobExport } from '@cork-ember/core/contract/answers.ts';
import { eventsSchema, jobExportSchema } from '@cork-ember/core/contract/schemas.ts';
import { findingOf } from '@cork-ember/core/ledger/finding.ts';
import { RunSheetError } from '@cork-ember/core/runsheet/entries/errors.ts';
import { append, foldJob, type Job } from '@cork-ember/core/runsheet/log/fold.ts';
import type { JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import { upcastExport } from '@cork-ember/core/runsheet/entries/upcast.ts';
import type { Clock } from '@cork-ember/core/clock/clock.ts';
import { ProblemError } from '../problems.ts';
import { chainBreak, type ChainedEntry } from '../record/chain.ts';
import { commitmentsIn, isOf, type KeptName } from '../record/names.ts';
import { recordFileSchema } from '../record/fileSchema.ts';
import { sealBreak, textOf, type Seal } from '../record/seal.ts';
import { eventsOf, type ForeignJob, type JobStore } from '../store/jobStore.ts';
import type { SealStore } from '../store/sealStore.ts';
import { validated } from '../validate.ts';
import { markedEvents } from './reading.ts';
import { MOST_PICTURE_BYTES, type Photos } from './photos.ts';
import type { Sealing } from './sealing.ts';

export interface RecordFile {
  readonly format: 'cork-ember-job';
  readonly version: 3;
  readonly job: string;
  readonly entries: readonly ChainedEntry[];
  readonly names: readonly KeptName[];
  readonly seals: readonly (Omit<Seal, 'content' | 'job'> & { readonly content: unknown })[];
  /** JPEG, base 64. */
  readonly photos: readonly { readonly id: string; readonly jpeg: string }[];
}

/** A job out of a file that was found whole. */
export interface TakenJob {
  readonly job: Job;
  readonly foreign: ForeignJob;
}

const notAsRecorded = (why: string): ProblemError =>
  new ProblemError('bad-input', `The file is not what was recorded: ${why} Nothing was taken in.`);

/** The log must be one the run sheet would have accepted, entry by entry. */
function folded([first, ...rest]: readonly JobEvent[]): Job {
  try {
    if (!first) throw new RunSheetError('out-of-order', 'It has no entries.');
    return rest.reduce(append, foldJob([first]));
  } catch (error) {
    if (error instanceof RunSheetError)
      throw new ProblemError('bad-input', `The file’s log does not hold together: ${error.message}`);
    throw error;
  }
}

function checkOneJob(job: string, list: readonly { readonly job: string }[]): void {
  if (list.some((one) => one.job !== job))
    throw new ProblemError('bad-input', 'The file mixes entries of different jobs.');
}

export class JobFiles {
  private readonly store: JobStore;
  private readonly seals: SealStore;
  private readonly photos: Photos;
  private readonly sealing: Sealing;
  private readonly clock: Clock;

  constructor(store: JobStore, seals: SealStore, photos: Photos, sealing: Sealing, clock: Clock) {
    this.store = store;
    this.seals = seals;
    this.photos = photos;
    this.sealing = sealing;
    this.clock = clock;
  }

  /**
   * A job as it stands in the file, whether or not it can be read as a run sheet.
   * @throws ProblemError where there is none
   */
  async write(job: string): Promise<RecordFile> {
    const { entries, names } = await this.store.kept(job);
    if (entries.length === 0) throw new ProblemError('not-found', 'There is no such job.');
    const seals = await this.seals.seals(job);
    const pictures = await this.photos.all(job);
    return {
      format: 'cork-ember-job',
      version: 3,
      job,
      entries,
      names,
      seals: seals.map((seal) => {
        const { job: _job, content: _deflated, ...rest } = seal;
        return { ...rest, content: JSON.parse(textOf(seal)) as unknown };
      }),
      photos: pictures.map(({ id, bytes }) => ({ id, jpeg: bytes.toString('base64') })),
    };
  }

  /**
   * Reads a file of any version; what was hashed must be as it was hashed.
   * @param body what somebody sent
   * @throws ProblemError in one sentence, and nothing was taken in
   */
  async read(body: unknown): Promise<TakenJob> {
    const isOfToday = typeof body === 'object' && body !== null && 'version' in body && body.version === 3;
    return isOfToday
      ? this.readRecord(validated<RecordFile>(recordFileSchema, body))
      : this.readEvents(validated<JobExport>(jobExportSchema, upcastExport(body)));
  }

  /** Of before there were hashes: it gets its own here, from what it says. */
  private async readEvents({ job: id, events }: JobExport): Promise<TakenJob> {
    checkOneJob(id, events);
    const job = folded(events);
    const kept = await this.store.keeping(events);
    const finding = findingOf(job.state);
    const make = job.state.outcome
      ? await this.sealing.prepare(markedEvents(kept.entries), this.clock.now())
      : undefined;
    const seals = make ? [make(kept.entries.at(-1)?.hash ?? '')] : [];
    return { job, foreign: { ...kept, seals, finding, photos: [] } };
  }

  private async readRecord(file: RecordFile): Promise<TakenJob> {
    const { job: id, entries, names } = file;
    checkOneJob(id, entries);
    const broken = chainBreak(entries);
    if (broken !== undefined) throw notAsRecorded(broken);
    if (!names.every(isOf)) throw notAsRecorded('a customer’s name is not the one that was given.');
    const events = eventsOf({ entries, names });
    // Judged as it will be read; what stands in the record stays as it was.
    validated(eventsSchema, events);
    const job = folded(events);
    const seals = file.seals.map((seal): Seal => {
      const content = deflateRawSync(JSON.stringify(seal.content));
      return { ...seal, job: id, content };
    });
    for (const seal of seals) {
      const why = sealBreak(seal, (seq) => entries[seq - 1]?.hash);
      if (why !== undefined) throw notAsRecorded(why);
    }
    const spoken = new Set(commitmentsIn(JSON.stringify(entries.map(({ payload }) => payload))));
    return {
      job,
      foreign: {
        entries,
        names: names.filter(({ commitment }) => spoken.has(commitment)),
        seals,
        finding: findingOf(job.state),
        photos: await Promise.all(file.photos.map(pictureOf)),
      },
    };
  }
}

/** A picture out of a file is served as one: it must be what it says. */
async function pictureOf({ id, jpeg }: RecordFile['photos'][number]): Promise<{ id: string; bytes: Buffer }> {
  const bytes = Buffer.from(jpeg, 'base64');
  const kind = await fileTypeFromBuffer(bytes);
  if (kind?.mime !== 'image/jpeg' || bytes.length > MOST_PICTURE_BYTES)
    throw new ProblemError(
      'bad-input',
      'A picture in the file is no JPEG of at most 4 MB; nothing was taken in.',
    );
  return { id, bytes };
}
