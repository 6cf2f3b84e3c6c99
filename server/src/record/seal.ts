/**
 * What stands fast when a job ends: its final state, the numbers and rules it went by and the words of its papers, under
 * one hash with the entries they rest on. Papers of an ended job are printed from here, never judged anew.
 */
import { deflateRawSync, inflateRawSync } from 'node:zlib';
import { completeRules, type HouseRules } from '@cork-ember/core/rules/houseRules.ts';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { basisOf } from '@cork-ember/core/runsheet/state/context.ts';
import { readingsFrom } from '@cork-ember/core/runsheet/state/looks.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import type { ChargeReading } from '@cork-ember/core/charge/proofOfFull.ts';
import {
  resolveThreshold,
  THRESHOLD_IDS,
  type Sourced,
  type ThresholdId,
} from '@cork-ember/core/rules/thresholds.ts';
import type { SealSummary } from '@cork-ember/core/contract/answers.ts';
import type { DocumentContent } from '../documents/content.ts';
import { hashOf } from './chain.ts';

export const PAPERS = ['certificate', 'owner-sheet', 'warranty-record'] as const;
export type PaperId = (typeof PAPERS)[number];

/** The words of each paper that this ending has. */
export type Papers = Readonly<Partial<Record<PaperId, DocumentContent>>>;

export interface SealContent {
  readonly job: string;
  /** 1 at the first ending; each amendment makes the next. */
  readonly issue: number;
  readonly sealedAt: number;
  /** The last entry it rests on, and that one's hash. */
  readonly upTo: number;
  readonly chain: string;
  /** Hash of the issue it replaces. */
  readonly replaces?: string;
  readonly rules: HouseRules;
  /** Version of the house rules they are of; seals of before do not say it. */
  readonly rulesVersion?: number;
  readonly thresholds: Readonly<Record<ThresholdId, Sourced>>;
  /** The state at its end, its readings in order of time by the step they were taken on. */
  readonly state: Omit<JobState, 'readings'> & {
    readonly readings: Readonly<Record<string, readonly ChargeReading[]>>;
  };
  readonly papers: Papers;
  /** Pictures of its papers, by what they show. */
  readonly photos: readonly { readonly id: string; readonly sha256: string }[];
}

/** A seal as the shop's file keeps it. */
export interface Seal extends SealSummary {
  readonly job: string;
  readonly hash: string;
  readonly content: Buffer;
}

/** Crockford's base 32: no letter that is taken for a digit. */
const DIGITS = '0123456789ABCDEFGHJKMNPQRSTVWXYZ';
const CODE_LENGTH = 10;

/** The first 50 bits of a hash, to be read off paper: "7KQ2M-XB4TD". */
function codeOf(hash: string): string {
  const bits = BigInt(`0x${hash}`) >> BigInt(4 * hash.length - 5 * CODE_LENGTH);
  const code = Array.from({ length: CODE_LENGTH }, (_, place) => {
    const digit = Number((bits >> BigInt(5 * (CODE_LENGTH - 1 - place))) & 31n);
    return DIGITS.charAt(digit);
  }).join('');
  return `${code.slice(0, CODE_LENGTH / 2)}-${code.slice(CODE_LENGTH / 2)}`;
}

/** A code as somebody types it: letters that look like digits are those digits, and the hyphen may be missing. */
export function tidyCode(typed: string): string {
  const code = typed
    .toUpperCase()
    .replace(/[^0-9A-Z]/g, '')
    .replace(/O/g, '0')
    .replace(/[IL]/g, '1');
  return `${code.slice(0, CODE_LENGTH / 2)}-${code.slice(CODE_LENGTH / 2)}`;
}

function stateAtEnd({ readings, ...state }: JobState): SealContent['state'] {
  const charged = state.steps.filter(({ charge }) => charge !== undefined);
  return {
    ...state,
    readings: Object.fromEntries(charged.map(({ key }) => [key, readingsFrom(readings, key)])),
  };
}

/** What a job's seal holds, but for its papers and pictures. */
export function contentsOf(
  { state }: Pick<Job, 'state'>,
  rest: Pick<SealContent, 'issue' | 'sealedAt' | 'upTo' | 'chain' | 'replaces' | 'papers' | 'photos'>,
): SealContent {
  const basis = basisOf(state);
  return {
    job: state.job,
    ...rest,
    rules: completeRules(state.opened.rules),
    rulesVersion: state.opened.rulesVersion ?? 1,
    thresholds: Object.fromEntries(
      THRESHOLD_IDS.map((id) => [id, resolveThreshold(id, basis)]),
    ) as SealContent['thresholds'],
    state: stateAtEnd(state),
  };
}

/** Puts the hash under it. */
export function sealed(contents: SealContent): Seal {
  const text = JSON.stringify(contents);
  const hash = hashOf(JSON.parse(text));
  const { job, issue, sealedAt: at, upTo } = contents;
  return { job, issue, at, upTo, code: codeOf(hash), hash, content: deflateRawSync(text) };
}

/** What a seal holds, as JSON. */
export const textOf = ({ content }: Pick<Seal, 'content'>): string =>
  inflateRawSync(content).toString('utf8');

/**
 * Whether a seal is what was sealed, and rests on entries with this hash.
 * @returns undefined where it is; else a sentence
 */
export function sealBreak(seal: Seal, hashAt: (seq: number) => string | undefined): string | undefined {
  const text = textOf(seal);
  const contents = JSON.parse(text) as SealContent;
  if (hashOf(contents) !== seal.hash || codeOf(seal.hash) !== seal.code)
    return `Issue ${seal.issue} is not what was sealed.`;
  return hashAt(contents.upTo) === contents.chain
    ? undefined
    : `The entries issue ${seal.issue} rests on are not those that stand here.`;
}
