import { expect } from 'chai';
import { MORNING } from '../test/testJob.ts';
import { callsAt } from './calls.ts';
import type { Due } from './due.ts';
import type { Shelved } from './overview.ts';
import type { Place, PlaceKind } from './places.ts';
import { DAY_MS } from './warmth.ts';

const soon: Due = { want: 'call', by: MORNING + 3 * DAY_MS, because: 'a month since it was lent' };
const charge: Due = { want: 'recharge', by: MORNING + 5 * DAY_MS, because: 'three months since its charge' };

const one = (
  kind: PlaceKind,
  due: readonly Due[],
  more: Partial<Shelved> & { readonly to?: string } = {},
): Shelved => {
  const { to, ...rest } = more;
  const place: Place = { kind, name: '', ...(to === undefined ? {} : { to }) };
  return { tag: kind, type: '', owner: 'stock', due, place, ...rest } as unknown as Shelved;
};

describe('who is to be called', () => {
  it('whoever has one that was lent, by the name that is kept of them', () => {
    expect(callsAt([one('lent', [soon], { to: 'B. Aune' })], MORNING)).to.deep.include.members([
      {
        one: one('lent', [soon], { to: 'B. Aune' }),
        who: 'B. Aune',
        why: 'a month since it was lent',
        by: soon.by,
      },
    ]);
  });

  it('once about all that work in one machine', () => {
    const inLift = (tag: string): Shelved => {
      const lent = one('lent', [soon], { to: 'boatyard' });
      return { ...lent, tag, place: { kind: 'lent', name: '', to: 'boatyard', machine: 'M-0002' } };
    };
    const [call, ...more] = callsAt([inLift('A'), inLift('B'), inLift('C'), one('lent', [soon])], MORNING);
    expect(call?.one.tag).to.equal('A');
    expect(call?.others?.map(({ tag }) => tag)).to.deep.equal(['B', 'C']);
    expect(more).to.have.length(1);
    expect(more[0]).not.to.have.property('others');
  });

  it('owners whose own, laid up, is due a charge; not the shop about its own', () => {
    const calls = callsAt(
      [
        one('laidUp', [charge], { owner: 'tide-gauge hut' }),
        one('laidUp', [charge], { owner: 'stock, from the ferry' }),
        one('shelf', [charge], { owner: 'tide-gauge hut' }),
      ],
      MORNING,
    );
    expect(calls.map(({ who, why }) => [who, why])).to.deep.equal([
      ['tide-gauge hut', 'recharge: three months since its charge'],
    ]);
  });

  it('nobody twice within two weeks, nobody for what is a month away, the soonest first', () => {
    const called = { at: MORNING - 13 * DAY_MS, said: 'next week' };
    const later = { ...soon, by: MORNING + 20 * DAY_MS };
    const calls = callsAt(
      [
        one('customer', [{ ...soon, by: MORNING + 9 * DAY_MS }]),
        one('lent', [soon]),
        one('lent', [soon], { called }),
        one('lent', [later]),
      ],
      MORNING,
    );
    expect(calls.map(({ one: { tag } }) => tag)).to.deep.equal(['lent', 'customer']);
  });
});
