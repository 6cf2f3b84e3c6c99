/** Reads of the shop: the server is asked, and where it is away what it said last is given instead. */
import { keepAnswer, keptAnswer } from '../store/answers.ts';
import { ask, ServerAway } from './client.ts';

/** A server that is there answers a read sooner, ms; one that hangs is taken for away where its last answer is kept. */
const PATIENCE_MS = 10_000;

const asIs = <T>(body: unknown): T => body as T;

/**
 * @param read makes of the answer what the page uses; what it throws on is not kept
 * @param patienceMs after which what was said last is given
 * @throws Refusal, or ServerAway where nothing was kept either
 */
export async function askKnown<T>(
  path: string,
  read: (body: unknown) => T = asIs,
  patienceMs = PATIENCE_MS,
): Promise<T> {
  try {
    const body = await ask<unknown>(path, undefined, AbortSignal.timeout(patienceMs));
    const answer = read(body);
    void keepAnswer(path, body);
    return answer;
  } catch (error) {
    if (!(error instanceof ServerAway)) throw error;
    const kept = await keptAnswer(path, read);
    if (kept === undefined) throw error;
    return kept;
  }
}
