/** Pictures kept with a job: made small, stripped of everything but the picture itself. */
import { randomUUID } from 'node:crypto';
import { fileTypeFromBuffer } from 'file-type';
import { ProblemError } from '../problems.ts';
import { MOST_PICTURES } from '../record/fileSchema.ts';
import { Queue } from './queue.ts';
import { overwriting, type Database } from '../store/database.ts';

/** Longest side kept, and how many pictures a job may hold. */
const LONGEST_PX = 1600;
const MOST_PER_JOB = MOST_PICTURES;
/** More than any picture kept here: of 1600 pixels at most. */
export const MOST_PICTURE_BYTES = 4_000_000;
/** A picture larger than this is not even looked at: it would fill the memory once unpacked. */
const MOST_PIXELS = 60_000_000;
/** What cameras and screens give; drawings that are programs, such as SVG, are not opened at all. */
const TAKEN: readonly string[] = ['image/jpeg', 'image/png', 'image/webp'];
/** A camera's picture takes a second; what takes longer is no picture, s. */
const LONGEST_S = 10;

const noPicture = (): ProblemError =>
  new ProblemError('bad-input', 'Photo: the file is no picture this shop can read; JPEG, PNG or WebP.');

const NO_PHOTO = 'There is no such photo: it was deleted, or did not come with the job’s file.';

export class Photos {
  private readonly database: Database;
  private readonly queue = new Queue();

  constructor(database: Database) {
    this.database = database;
  }

  /**
   * Keeps a picture, re-encoded: no place, no camera, no thumbnail goes along.
   * @param id it is to have; a picture that is kept under it already stays as it is
   * @returns its id
   * @throws ProblemError when it is no picture, or the job holds too many
   */
  async keep(job: string, file: Buffer, id: string = randomUUID()): Promise<string> {
    const { photos } = this.database.models;
    if (await this.ifKept(job, id)) return id;
    if ((await photos.count({ where: { job } })) >= MOST_PER_JOB)
      throw new ProblemError('refused', `This job holds ${MOST_PER_JOB} photos already; that is the most.`);
    const bytes = await this.small(file);
    await photos.create({ id, job, bytes });
    return id;
  }

  /**
   * Decoded on the library's own threads, one picture at a time and for so long at most: entries share those threads, and
   * must not wait.
   */
  private async small(file: Buffer): Promise<Buffer> {
    const kind = await fileTypeFromBuffer(file);
    if (!kind || !TAKEN.includes(kind.mime)) throw noPicture();
    return this.queue.run('decode', () => this.decoded(file));
  }

  private async decoded(file: Buffer): Promise<Buffer> {
    // Loaded with the first picture: the shop opens sooner without it.
    const { default: sharp } = await import('sharp');
    try {
      return await sharp(file, { limitInputPixels: MOST_PIXELS })
        .rotate()
        .resize({ width: LONGEST_PX, height: LONGEST_PX, fit: 'inside', withoutEnlargement: true })
        .jpeg({ quality: 80 })
        .timeout({ seconds: LONGEST_S })
        .toBuffer();
    } catch {
      throw noPicture();
    }
  }

  /** @throws ProblemError when there is none */
  async remove(job: string, id: string): Promise<void> {
    const { photos } = this.database.models;
    const gone = await overwriting(this.database, (transaction) =>
      photos.destroy({ where: { id, job }, transaction }),
    );
    if (gone === 0) throw new ProblemError('not-found', NO_PHOTO);
  }

  /** Every picture of a job. */
  async all(job: string): Promise<{ readonly id: string; readonly bytes: Buffer }[]> {
    const rows = await this.database.models.photos.findAll({ where: { job }, order: [['id', 'ASC']] });
    return rows.map(({ id, bytes }) => ({ id, bytes }));
  }

  /** Their ids alone. */
  async idsOf(job: string): Promise<string[]> {
    const rows = await this.database.models.photos.findAll({
      where: { job },
      attributes: ['id'],
      order: [['id', 'ASC']],
    });
    return rows.map(({ id }) => id);
  }

  /** A picture of a job; a job that came as a file of before may name some that did not come with it. */
  async ifKept(job: string, id: string): Promise<Buffer | undefined> {
    return (await this.database.models.photos.findOne({ where: { id, job } }))?.bytes;
  }

  /** @throws ProblemError when there is none */
  async bytes(job: string, id: string): Promise<Buffer> {
    const bytes = await this.ifKept(job, id);
    if (!bytes) throw new ProblemError('not-found', NO_PHOTO);
    return bytes;
  }
}
