/** A job as a file: its entries with their hashes, the names they stand for, its seals and pictures; out and in again. */
import { deflateRawSync } from 'node:zlib';
import { fileTypeFromBuffer } from 'file-type';
import type { JobExport } from '@cork-ember/core/contract/answers.ts';
import { eventSchema, jobExportSchema } from '@cork-ember/core/contract/schemas.ts';
import { findingOf } from '@cork-ember/core/ledger/finding.ts';
import { RunSheetError } from '@cork-ember/core/runsheet/entries/errors.ts';
import { append, foldJob, type Job } from '@cork-ember/core/runsheet/log/fold.ts';
import type { JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import { upcastExport } from '@cork-ember/core/runsheet/entries/upcast.ts';
import type { Clock } from '@cork-ember/core/clock/clock.ts';
import { inPieces } from '../gently.ts';
import { ProblemError } from '../problems.ts';
import { chainBreak } from '../record/chain.ts';
import { commitmentsIn, isOf } from '../record/names.ts';
import { readFileParts, type FileParts, type FilePicture, type FileSeal } from '../record/fileReader.ts';
import { sealBreak, textOf, type Seal } from '../record/seal.ts';
import { eventsOf, type ForeignJob, type JobStore } from '../store/jobStore.ts';
import type { SealStore } from '../store/sealStore.ts';
import { validated } from '../validate.ts';
import { VERSION } from '../version.ts';
import { markedEvents } from './reading.ts';
import { MOST_PICTURE_BYTES, type Photos } from './photos.ts';
import type { Sealing } from './sealing.ts';

/** A job out of a file that was found whole. */
export interface TakenJob {
  readonly job: Job;
  readonly foreign: ForeignJob;
}

const notAsRecorded = (why: string): ProblemError =>
  new ProblemError('bad-input', `The file is not what was recorded: ${why} Nothing was taken in.`);

/** The log must be one the run sheet would have accepted, entry by entry; long ones let others in between. */
async function folded(
  [first, ...rest]: readonly JobEvent[],
  check: (event: JobEvent) => void = () => undefined,
): Promise<Job> {
  try {
    if (!first) throw new RunSheetError('out-of-order', 'It has no entries.');
    check(first);
    let job = foldJob([first]);
    for await (const some of inPieces(rest))
      for (const event of some) {
        check(event);
        job = append(job, event);
      }
    return job;
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
   * A job as it stands in the file, whether or not it can be read as a run sheet, as pieces of JSON.
   * @throws ProblemError where there is none
   */
  async write(job: string): Promise<AsyncIterable<string>> {
    const { entries, names } = await this.store.kept(job);
    if (entries.length === 0) throw new ProblemError('not-found', 'There is no such job.');
    const seals = (await this.seals.seals(job)).map((seal): FileSeal => {
      const { job: _job, content: _deflated, ...rest } = seal;
      return { ...rest, content: JSON.parse(textOf(seal)) as unknown };
    });
    return this.pieces(job, { entries, names, seals });
  }

  private async *pieces(
    job: string,
    lists: Readonly<Record<string, readonly unknown[]>>,
  ): AsyncIterable<string> {
    const head = JSON.stringify({ format: 'cork-ember-job', version: 3, program: VERSION, job });
    yield head.slice(0, -1);
    for (const [name, list] of Object.entries(lists)) {
      yield `,"${name}":[`;
      let comma = '';
      for await (const some of inPieces(list)) {
        yield comma + some.map((one) => JSON.stringify(one)).join(',');
        comma = ',';
      }
      yield ']';
    }
    yield ',"photos":[';
    // One at a time: forty pictures together are what no answer holds at once.
    for (const [index, id] of (await this.photos.idsOf(job)).entries()) {
      const jpeg = (await this.photos.bytes(job, id)).toString('base64');
      yield `${index === 0 ? '' : ','}${JSON.stringify({ id, jpeg })}`;
    }
    yield ']}';
  }

  /**
   * Reads a file of any version as it arrives; what was hashed must be as it was hashed.
   * @throws ProblemError in one sentence, and nothing was taken in
   */
  async read(source: AsyncIterable<Uint8Array>): Promise<TakenJob> {
    const file = await readFileParts(source);
    if (file.head['version'] === 3) return this.readRecord(file);
    const past = { ...file.head, events: file.events };
    return this.readEvents(validated<JobExport>(jobExportSchema, upcastExport(past)));
  }

  /** Of before there were hashes: it gets its own here, from what it says. */
  private async readEvents({ job: id, events }: JobExport): Promise<TakenJob> {
    checkOneJob(id, events);
    const job = await folded(events);
    const kept = await this.store.keeping(events);
    const finding = findingOf(job.state);
    const make = job.state.outcome
      ? await this.sealing.prepare(markedEvents(kept.entries), this.clock.now())
      : undefined;
    const seals = make ? [make(kept.entries.at(-1)?.hash ?? '')] : [];
    return { job, foreign: { ...kept, seals, finding, photos: [] } };
  }

  private async readRecord(file: FileParts): Promise<TakenJob> {
    const { entries, names } = file;
    const id = String(file.head['job']);
    if (entries.length === 0)
      throw new ProblemError('bad-input', 'The file has no entries; nothing was taken in.');
    checkOneJob(id, entries);
    const broken = chainBreak(entries);
    if (broken !== undefined) throw notAsRecorded(broken);
    if (!names.every(isOf)) throw notAsRecorded('a customer’s name is not the one that was given.');
    const events = eventsOf({ entries, names });
    // Judged as it will be read; what stands in the record stays as it was.
    const job = await folded(events, (event) => validated(eventSchema, event));
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
        photos: await Promise.all(file.photos.map(checkedPicture)),
      },
    };
  }
}

/** A picture out of a file is served as one: it must be what it says. */
async function checkedPicture(picture: FilePicture): Promise<FilePicture> {
  const { bytes } = picture;
  const kind = await fileTypeFromBuffer(bytes);
  if (kind?.mime !== 'image/jpeg' || bytes.length > MOST_PICTURE_BYTES)
    throw new ProblemError(
      'bad-input',
      'A picture in the file is no JPEG of at most 4 MB; nothing was taken in.',
    );
  return picture;
}
