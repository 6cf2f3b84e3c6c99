/** Talks to the shop's server; failures are one sentence, and a server that is away is told apart. */
import type { Problem } from '@cork-ember/core/contract/answers.ts';
import { inShop } from '../region/shopRegion.ts';

/** The server answered, and said no. */
export class Refusal extends Error {
  readonly status: number;

  constructor(problem: Problem) {
    super(problem.detail);
    this.name = 'Refusal';
    this.status = problem.status;
  }
}

/** The server did not answer. */
export class ServerAway extends Error {
  constructor() {
    super('The server does not answer.');
    this.name = 'ServerAway';
  }
}

/** Told where the server says that nobody is at the bench, or that this browser is not the shop's. */
let tellTurnedAway: () => void = () => undefined;

export function whenTurnedAway(take: () => void): void {
  tellTurnedAway = take;
}

const NOBODY_HERE = 401;

/** A server that says nothing for so long is away, ms: a picture over a slow network takes a while. */
const LONGEST_MS = 60_000;

async function answerOf(path: string, given: RequestInit | undefined): Promise<Response> {
  const init = { signal: AbortSignal.timeout(LONGEST_MS), ...given };
  try {
    return await fetch(path, init);
  } catch {
    throw new ServerAway();
  }
}

/**
 * Asks the server; a body makes it a POST.
 * @throws Refusal or ServerAway
 */
export async function ask<T>(path: string, body?: unknown, signal?: AbortSignal): Promise<T> {
  const init =
    body === undefined
      ? signal && { signal }
      : { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) };
  return answered<T>(await answerOf(path, init));
}

/** Takes back what stands at an address. @throws Refusal or ServerAway */
export async function revoke(path: string): Promise<void> {
  const response = await answerOf(path, { method: 'DELETE' });
  if (!response.ok) throw refusalOf(await response.json());
}

function refusalOf(answer: unknown): Refusal {
  const refusal = new Refusal(answer as Problem);
  if (refusal.status === NOBODY_HERE) tellTurnedAway();
  return refusal;
}

async function answered<T>(response: Response): Promise<T> {
  const isJson = response.headers.get('content-type')?.includes('json') === true;
  if (!isJson) throw new ServerAway();
  const answer: unknown = await response.json();
  if (!response.ok) throw refusalOf(answer);
  return answer as T;
}

/**
 * Sends a file as it is.
 * @throws Refusal or ServerAway
 */
export async function askWithFile<T>(path: string, file: Blob): Promise<T> {
  const headers = { 'content-type': file.type === '' ? 'application/octet-stream' : file.type };
  return answered<T>(await answerOf(path, { method: 'POST', headers, body: file }));
}

/** The sentence to show for a failure, as the shop writes it: a message on its way past JSX needs it so. */
export function sentenceOf(error: unknown): string {
  return error instanceof Error ? inShop(error.message) : 'Something went wrong.';
}
