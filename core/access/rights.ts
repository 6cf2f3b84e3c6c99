/** Who may do what in a shop: roles, rights, and the one sentence that says no. */
import type { Entry } from '../runsheet/entries/events.ts';

export const ROLES = ['counter', 'bench', 'lead'] as const;
export type Role = (typeof ROLES)[number];

export const ROLE_WORDS: Readonly<Record<Role, { readonly name: string; readonly does: string }>> = {
  counter: { name: 'Counter', does: 'Reads everything and prints papers and labels.' },
  bench: { name: 'Bench', does: 'Takes batteries in and records what is done and read.' },
  lead: {
    name: 'Lead',
    does: 'Does what the bench does, and besides goes against a house rule with a reason, amends sealed records, and changes rules, costs and people.',
  },
};

/** Whoever may read what anyone may, a browser of the shop with nobody at it, and people by what they do. */
const ANYONE = ['nobody', 'tablet', ...ROLES] as const;
export type Standing = (typeof ANYONE)[number];

const SHOPS_OWN: readonly Standing[] = ['tablet', ...ROLES];
const HANDS: readonly Standing[] = ['bench', 'lead'];
const LEAD: readonly Standing[] = ['lead'];

/**
 * Each right and who has it. None of them lifts a limit: the ceilings of a charge, a veto of safety and a stop rule are nobody's to
 * override, and stand here with nobody.
 */
export const RIGHTS = {
  /** What a paper's own code leads to, and how a browser comes to be let in. */
  arrive: ANYONE,
  read: SHOPS_OWN,
  print: SHOPS_OWN,
  takeIn: HANDS,
  record: HANDS,
  overrideRule: LEAD,
  overrideLimit: [],
  amend: LEAD,
  changeShop: LEAD,
  changePeople: LEAD,
  readAudit: LEAD,
  copyShop: LEAD,
  forget: LEAD,
} as const satisfies Readonly<Record<string, readonly Standing[]>>;
export type Right = keyof typeof RIGHTS;

/** What each is about, as it follows "may not". */
const ABOUT: Readonly<Record<Right, string>> = {
  arrive: 'open this shop',
  read: 'read this shop’s records',
  print: 'print papers and labels',
  takeIn: 'take batteries in',
  record: 'record work',
  overrideRule: 'go against a house rule',
  overrideLimit: 'go past a limit',
  amend: 'change a record whose papers are out',
  changeShop: 'change how the shop works',
  changePeople: 'change people, PINs and tablets',
  readAudit: 'read who did what',
  copyShop: 'copy the whole shop',
  forget: 'give out or delete what is kept of a customer, or delete a picture',
};

export const mayDo = (standing: Standing, right: Right): boolean =>
  (RIGHTS[right] as readonly Standing[]).includes(standing);

/** Rights somebody has, in the order of the table. */
export const rightsOf = (standing: Standing): readonly Right[] =>
  (Object.keys(RIGHTS) as Right[]).filter((right) => mayDo(standing, right));

/**
 * Why somebody may not.
 * @param name of who asked
 * @param leads names of those who lead this shop
 */
export function refusalOf(right: Right, name: string, leads: readonly string[]): string {
  if (RIGHTS[right].length === 0) return `Nobody may ${ABOUT[right]}: not with a reason either.`;
  const who = mayDo('bench', right) ? 'somebody of the bench or a lead' : 'a lead';
  const names = leads.length > 0 && !mayDo('bench', right) ? ` (${leads.join(', ')})` : '';
  return `${name} may not ${ABOUT[right]}: ${who}${names} does that.`;
}

/** Why a lead who came by badge may not yet: a badge is found, lent and copied. */
export const badgeRefusal = (right: Right, name: string): string =>
  `${name} came by badge, which may not ${ABOUT[right]}: come by PIN for that.`;

/** What somebody is who showed a badge alone. */
export const byBadge = (role: Role): Role => (role === 'lead' ? 'bench' : role);

/** A way that is taken against the house says why. */
const isAgainstHouse = (payload: object): boolean =>
  'route' in payload && 'reason' in payload && payload.reason !== undefined;

/** What an entry of a job asks for; a correction asks for what it would put in the place of the other. */
export function rightOfEntry(entry: Entry): Right {
  switch (entry.kind) {
    case 'amended':
    case 'reopened':
      return 'amend';
    case 'overridden':
      return 'overrideRule';
    case 'routed':
      return isAgainstHouse(entry.payload) ? 'overrideRule' : 'record';
    case 'corrected':
      return isAgainstHouse(entry.payload.payload) ? 'overrideRule' : 'record';
    default:
      return 'record';
  }
}
