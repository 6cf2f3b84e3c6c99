/**
 * Passes an alarm of a bay on to whatever listens on the shop's network: a siren, a telephone gateway, a house that wakes somebody. What does not answer is asked
 * again for a few minutes; the page and its tone do not wait for it.
 */
import { setTimeout as pass } from 'node:timers/promises';
import type { Logger } from 'pino';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { verbatim } from '@cork-ember/core/units/localise.ts';
import { ProblemError } from '../problems.ts';
import { isPrivate } from '../tls/privateNetworks.ts';

/** What is sent, as JSON. */
export interface AlarmSent {
  readonly shop: string;
  readonly bay: number;
  readonly job: string;
  readonly says: string;
  /** Shop time, ISO 8601. */
  readonly at: string;
}

/** So long until it is asked again, each time it did not take it, ms. */
const AGAIN_AFTER_MS: readonly number[] = [1000, 5000, 30_000, 120_000];
const ANSWERS_WITHIN_MS = 5000;

/** @throws ProblemError where it is no address of a network of the shop's own */
export function assertAlarmsTo(address: string | undefined): void {
  if (address === undefined || address === '') return;
  const url = URL.canParse(address) ? new URL(address) : undefined;
  const host = url?.hostname.replace(/^\[|\]$/g, '') ?? '';
  if (!url || !['http:', 'https:'].includes(url.protocol) || !isPrivate(host))
    throw new ProblemError(
      'bad-input',
      `Where alarms go: an address on the shop’s own network by number, such as ${verbatim('http://192.168.1.60/alarm')}.`,
    );
}

interface AlarmPostNeed {
  readonly settings: { readonly shop: Shop };
  readonly now: () => number;
  readonly log: Logger;
  /** How long it waits before it asks again, ms. */
  readonly againAfterMs?: readonly number[];
}

export class AlarmPost {
  private readonly need: AlarmPostNeed;
  private readonly ending = new AbortController();

  constructor(need: AlarmPostNeed) {
    this.need = need;
  }

  /** @returns once it was taken, or given up; whoever calls need not wait */
  async send(alarm: Pick<AlarmSent, 'bay' | 'job' | 'says'>): Promise<void> {
    const { settings, now, log, againAfterMs = AGAIN_AFTER_MS } = this.need;
    const { alarmsTo = '', name } = settings.shop;
    if (alarmsTo === '') return;
    const sent: AlarmSent = { shop: name, ...alarm, at: new Date(now()).toISOString() };
    for (const [index, waitMs] of [...againAfterMs, undefined].entries()) {
      if (await this.isTaken(alarmsTo, sent)) return;
      log.warn({ bay: alarm.bay, attempt: index + 1 }, 'an alarm was not taken where alarms go');
      if (waitMs === undefined || !(await this.waits(waitMs))) return;
    }
  }

  private async waits(ms: number): Promise<boolean> {
    return pass(ms, true, { signal: this.ending.signal, ref: false }).catch(() => false);
  }

  private async isTaken(address: string, sent: AlarmSent): Promise<boolean> {
    try {
      const answer = await fetch(address, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(sent),
        // It goes to this address, and nowhere it may point to.
        redirect: 'error',
        signal: AbortSignal.any([AbortSignal.timeout(ANSWERS_WITHIN_MS), this.ending.signal]),
      });
      await answer.body?.cancel();
      return answer.ok;
    } catch {
      return false;
    }
  }

  /** What was not taken yet is let go. */
  end(): void {
    this.ending.abort();
  }
}
