import { createHash } from 'node:crypto';
import { expect } from 'chai';
import { HOUSE_RULES, RULE_IDS, RULES_VERSION } from './houseRules.ts';

/** What each version could choose from: a change of it without a new version is one nobody can read later. */
const CHOICES: Readonly<Record<number, string>> = {
  2: '866da7fb1246e094',
  3: 'f5b2cc501bd103f5',
  4: 'd5931f2d4d22b31e',
  5: 'fb2da82d87fbd256',
};

describe('the version of the house rules', () => {
  it('stands for these points and options, and is raised with any other', () => {
    const choices = RULE_IDS.map(
      (id) => `${id}: ${Object.keys(HOUSE_RULES[id].options).toSorted().join(' ')}`,
    );
    const print = createHash('sha256').update(choices.toSorted().join('\n')).digest('hex').slice(0, 16);
    expect(print, 'raise RULES_VERSION and add its fingerprint').to.equal(CHOICES[RULES_VERSION]);
  });
});
