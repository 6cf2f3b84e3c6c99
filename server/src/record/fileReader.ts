/**
 * A job's file as it arrives, piece by piece: each entry, seal and picture is checked and put away before the next is read,
 * so that no file is ever held as one text, and whoever asks something small meanwhile is answered in between.
 */
import { JSONParser } from '@streamparser/json';
import type { Schema } from 'joi';
import { ProblemError } from '../problems.ts';
import { validated } from '../validate.ts';
import type { ChainedEntry } from './chain.ts';
import {
  entrySchema,
  headSchema,
  MOST_BYTES,
  MOST_ENTRIES,
  MOST_ISSUES,
  MOST_PICTURES,
  nameSchema,
  pictureSchema,
  sealSchema,
} from './fileSchema.ts';
import type { KeptName } from './names.ts';
import type { Seal } from './seal.ts';

export interface FileSeal extends Omit<Seal, 'content' | 'job'> {
  readonly content: unknown;
}

export interface FilePicture {
  readonly id: string;
  readonly bytes: Buffer;
}

/** What a file held, each part of the shape it must have; whether it hangs together is for who takes it in. */
export interface FileParts {
  readonly head: Readonly<Record<string, unknown>>;
  readonly entries: readonly ChainedEntry[];
  readonly names: readonly KeptName[];
  readonly seals: readonly FileSeal[];
  readonly photos: readonly FilePicture[];
  /** Of a file of before there were entries with hashes. */
  readonly events: readonly unknown[];
}

interface ListOf {
  readonly schema?: Schema;
  readonly most: number;
  readonly what: string;
}

const LISTS: Readonly<Record<string, ListOf>> = {
  entries: { schema: entrySchema, most: MOST_ENTRIES, what: 'entries' },
  names: { schema: nameSchema, most: MOST_ENTRIES, what: 'names' },
  seals: { schema: sealSchema, most: MOST_ISSUES, what: 'issues of its papers' },
  photos: { schema: pictureSchema, most: MOST_PICTURES, what: 'pictures' },
  events: { most: MOST_ENTRIES, what: 'entries' },
};

const bad = (why: string): ProblemError => new ProblemError('bad-input', `${why} Nothing was taken in.`);

class Reader {
  readonly head: Record<string, unknown> = {};
  readonly lists: Record<string, unknown[]> = { entries: [], names: [], seals: [], photos: [], events: [] };
  private readonly parser = new JSONParser({
    paths: ['$.*', ...Object.keys(LISTS).map((name) => `$.${name}.*`)],
    keepStack: false,
    stringBufferSize: 64 * 1024,
  });
  private problem: ProblemError | undefined;

  constructor() {
    this.parser.onError = (error) => {
      this.problem ??= error instanceof ProblemError ? error : bad('The file is no JSON, or was cut short.');
    };
    this.parser.onValue = ({ value, key, stack }) => {
      if (this.problem) return;
      try {
        this.take(value, String(key), String(stack[1]?.key ?? ''));
      } catch (error) {
        if (!(error instanceof ProblemError)) throw error;
        this.problem = error;
      }
    };
  }

  /** @param list it stands in; none at the top of the file */
  private take(value: unknown, key: string, list: string): void {
    const kind = LISTS[list];
    const kept = this.lists[list];
    if (!kind || !kept) {
      if (!(key in LISTS)) this.head[key] = value;
      else if (!Array.isArray(value)) throw bad(`"${key}" must be a list.`);
      return;
    }
    if (kept.length >= kind.most) throw bad(`A job has at most ${kind.most} ${kind.what}.`);
    const { schema } = kind;
    const checked = schema ? validated<unknown>(schema, value) : value;
    kept.push(list === 'photos' ? pictureOf(checked as { id: string; jpeg: string }) : checked);
  }

  /** @throws ProblemError in one sentence, at the first thing that is wrong */
  write(chunk: Uint8Array): void {
    this.parser.write(chunk);
    if (this.problem) throw this.problem;
  }

  /** @throws ProblemError where the file broke off, or says of itself what it is not */
  end(): FileParts {
    if (!this.parser.isEnded) throw bad('The file is no JSON, or was cut short.');
    const { entries = [], names = [], seals = [], photos = [], events = [] } = this.lists;
    return {
      head: validated(headSchema, this.head),
      entries: entries as ChainedEntry[],
      names: names as KeptName[],
      seals: seals as FileSeal[],
      photos: photos as FilePicture[],
      events,
    };
  }
}

const pictureOf = ({ id, jpeg }: { readonly id: string; readonly jpeg: string }): FilePicture => ({
  id,
  bytes: Buffer.from(jpeg, 'base64'),
});

/**
 * Reads a file from whoever sends it.
 * @throws ProblemError in one sentence
 */
export async function readFileParts(source: AsyncIterable<Uint8Array>): Promise<FileParts> {
  const reader = new Reader();
  let bytes = 0;
  for await (const chunk of source) {
    bytes += chunk.length;
    if (bytes > MOST_BYTES)
      throw new ProblemError('too-large', `A job’s file has at most ${MOST_BYTES / 1_000_000} MB.`);
    reader.write(chunk);
  }
  return reader.end();
}
