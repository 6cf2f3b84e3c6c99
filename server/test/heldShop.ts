/** A shop whose people have PINs, for tests of who may do what. */
import request from 'supertest';
import type { EnrolmentCode, PersonKept, SessionAnswer } from '@cork-ember/core/access/people.ts';
import { openTestShop, type TestShop } from './testShop.ts';

export const LEAD = { name: 'Maeve', role: 'lead', pin: '5184', passphrase: 'kelp over cold slate' };
export const BENCH = { name: 'Odd', role: 'bench', pin: '6041' };
export const COUNTER = { name: 'Runa', role: 'counter', pin: '9273' };

export type Browser = ReturnType<typeof request.agent>;

/** A shop of one's own with three people, a browser that is the shop's, and a real clock that can be turned. */
export interface Held {
  readonly shop: TestShop;
  readonly lead: Browser;
  /** One the shop has never seen. */
  browser(): Browser;
  readonly people: ReadonlyMap<string, PersonKept>;
  pass(minutes: number): void;
  /** A browser that is the shop's, with nobody at it. */
  enrolled(name?: string): Promise<Browser>;
  signIn(browser: Browser, name: string, pin: string): request.Test;
}

/** Opens one. */
export async function held(): Promise<Held> {
  let now = Date.parse('2026-03-10T08:00:00Z');
  const shop = await openTestShop(undefined, true, () => now);
  // One port for all: a cookie goes by it.
  const url = `http://127.0.0.1:${await shop.listen(0, '127.0.0.1')}`;
  const browser = (): Browser => request.agent(url);
  const lead = browser();
  await lead.post('/api/people').send(LEAD).expect(201);
  for (const person of [BENCH, COUNTER]) await lead.post('/api/people').send(person).expect(201);
  const kept = (await lead.get('/api/people').expect(200)).body as PersonKept[];
  const people = new Map(kept.map((person) => [person.name, person]));
  return {
    shop,
    browser,
    lead,
    people,
    pass: (minutes) => {
      now += minutes * 60_000;
    },
    enrolled: async (name = 'Acid bench') => {
      const { code } = (await lead.post('/api/tablets/codes').expect(201)).body as EnrolmentCode;
      const fresh = browser();
      await fresh.post('/api/tablets').send({ code, name }).expect(201);
      return fresh;
    },
    signIn: (browser, name, pin) => browser.post('/api/session').send({ person: people.get(name)?.id, pin }),
  };
}

export const sessionOf = async (browser: Browser): Promise<SessionAnswer> =>
  (await browser.get('/api/session').expect(200)).body as SessionAnswer;

/** What the bench may enter, and nobody else. */
export const countSoda = { by: 'Somebody', item: 'soda', amount: 1, why: 'counted' };
