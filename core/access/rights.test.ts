import { expect } from 'chai';
import type { Entry } from '../runsheet/entries/events.ts';
import { mayDo, refusalOf, RIGHTS, rightOfEntry, rightsOf, ROLES, type Right } from './rights.ts';

describe('rights', () => {
  it('grow from counter to bench to lead, and a browser with nobody at it only shows and prints', () => {
    const [counter, bench, lead] = ROLES.map((role) => new Set(rightsOf(role)));
    expect([...(counter ?? [])].every((right) => bench?.has(right))).to.equal(true);
    expect([...(bench ?? [])].every((right) => lead?.has(right))).to.equal(true);
    expect(rightsOf('tablet')).to.deep.equal(['arrive', 'read', 'print']);
    expect(rightsOf('nobody')).to.deep.equal(['arrive']);
  });

  it('lift a limit for nobody', () => {
    for (const standing of ['nobody', 'tablet', ...ROLES] as const)
      expect(mayDo(standing, 'overrideLimit'), standing).to.equal(false);
    expect(refusalOf('overrideLimit', 'Ines', ['Ines'])).to.equal(
      'Nobody may go past a limit: not with a reason either.',
    );
  });

  it('are refused in one sentence that says who has them', () => {
    expect(refusalOf('amend', 'Tarek', ['Ines', 'Odd'])).to.equal(
      'Tarek may not change a record whose papers are out: a lead (Ines, Odd) does that.',
    );
    expect(refusalOf('record', 'Runa', ['Ines'])).to.equal(
      'Runa may not record work: somebody of the bench or a lead does that.',
    );
    for (const right of Object.keys(RIGHTS) as Right[])
      expect(refusalOf(right, 'Runa', [])).to.match(/^(Runa may not|Nobody may) [^.]+\.$/);
  });

  const step = 'soak#1';
  for (const [entry, right] of [
    [{ kind: 'affirmed', payload: { step } }, 'record'],
    [{ kind: 'undone', payload: { replaces: '#3' } }, 'record'],
    [{ kind: 'routed', payload: { step, route: 'pulse' } }, 'record'],
    [{ kind: 'routed', payload: { step, route: 'pulse', reason: 'house says no' } }, 'overrideRule'],
    [{ kind: 'overridden', payload: { step, reason: 'the ferry leaves' } }, 'overrideRule'],
    [{ kind: 'corrected', payload: { replaces: '#4', payload: { step, route: 'pulse' } } }, 'record'],
    [
      {
        kind: 'corrected',
        payload: { replaces: '#4', payload: { step, route: 'pulse', reason: 'house says no' } },
      },
      'overrideRule',
    ],
    [{ kind: 'reopened', payload: { ending: '#9', bay: 1, why: 'it came back' } }, 'amend'],
    [{ kind: 'amended', payload: { changes: [], why: 'misread' } }, 'amend'],
  ] as const satisfies readonly (readonly [Entry, Right])[])
    it(`an entry “${entry.kind}”${'reason' in entry.payload ? ' with a reason' : ''} asks for ${right}`, () => {
      expect(rightOfEntry(entry)).to.equal(right);
    });
});
