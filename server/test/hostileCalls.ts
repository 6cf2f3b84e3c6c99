/** Calls no page would make, the same for the same seed: every route, with anything in path, query and body. */
import { chanceFrom } from '@cork-ember/core/chance/chance.ts';
import { openApiDocument } from '../src/openapi.ts';
import { OPEN } from './endedJob.ts';

export interface HostileCall {
  readonly method: string;
  /** Path and query. */
  readonly url: string;
  readonly headers: Readonly<Record<string, string>>;
  readonly body?: string;
}

export const NUL = String.fromCharCode(0);

const ODD: readonly unknown[] = [
  null,
  true,
  -1,
  1e308,
  0.5,
  '',
  ' ',
  NUL,
  'x'.repeat(5000),
  '../..',
  '=1+1',
  '{{7}}',
  '‮',
  "' OR 1=1 --",
  [],
  {},
  [[]],
  { a: 1 },
  OPEN,
  'SK-0121',
  '2026-13-40',
  '__proto__',
  'constructor',
];
const KEYS = [
  'by',
  'entry',
  'kind',
  'payload',
  'battery',
  'batteries',
  'values',
  'why',
  'requestKey',
  'expectedSeq',
  'types',
  'rules',
  '__proto__',
];
const QUERIES = ['issue', 'tags', 'text', 'page', 'key', 'kind'];
const TYPES = [
  'application/json',
  'text/csv',
  'text/plain',
  'image/jpeg',
  'application/x-www-form-urlencoded',
];
const PACKINGS = ['gzip', 'deflate', 'br', 'snow'];

/** A stream never ends. */
const ENDLESS: readonly string[] = ['/api/stream'];

/** One call after the other, as many as are wanted. */
export function* hostileCalls(seed: string): Generator<HostileCall, never> {
  const chance = chanceFrom(seed);
  const one = <T>(list: readonly T[]): T => list[Math.floor(chance() * list.length)] as T;
  const anything = (depth: number): unknown =>
    depth === 0 || chance() < 0.4
      ? one(ODD)
      : Object.fromEntries(Array.from({ length: 4 }, () => [one(KEYS), anything(depth - 1)]));
  const routes = Object.entries(openApiDocument()['paths'] as Readonly<Record<string, object>>)
    .filter(([path]) => !ENDLESS.includes(path))
    .flatMap(([path, methods]) =>
      Object.keys(methods).map((method) => [method.toUpperCase(), path] as const),
    );
  for (;;) {
    const [method, path] = one(routes);
    const place = encodeURIComponent(String(one(ODD)));
    const query = Object.fromEntries([one(QUERIES), one(QUERIES)].map((name) => [name, String(one(ODD))]));
    const url = `${path.replace(/\{\w+\}/g, () => place)}?${new URLSearchParams(query).toString()}`;
    if (method !== 'POST') {
      yield { method, url, headers: {} };
      continue;
    }
    const text = JSON.stringify(anything(3));
    const isBroken = chance() < 0.1;
    yield {
      method,
      url,
      headers: {
        'content-type': chance() < 0.8 ? 'application/json' : one(TYPES),
        ...(chance() < 0.1 ? { 'content-encoding': one(PACKINGS) } : {}),
      },
      body: isBroken ? text.slice(0, Math.floor(text.length / 2)) : text,
    };
  }
}
