/**
 * Names of customers stand outside what is hashed. In the record a name is a commitment: the hash of a random salt and
 * the name (Halevi and Micali 1996, with SHA-256). Salt and name are kept beside it and can be deleted; the record then
 * still proves that nothing else was changed, and says no more whose it was.
 */
import { createHash, randomBytes } from 'node:crypto';

export interface KeptName {
  readonly commitment: string;
  readonly salt: string;
  readonly name: string;
}

const MARK = 'owner:';
const COMMITTED = /owner:([0-9a-f]{64})/g;
const SALT_BYTES = 16;

/** What is shown where a name was deleted. */
export const NAME_DELETED = 'name deleted';

const commitmentOf = (salt: string, name: string): string =>
  createHash('sha256').update(`${salt}:${name}`).digest('hex');

/** A name with the commitment that stands in its place. */
function committed(name: string): KeptName {
  const salt = randomBytes(SALT_BYTES).toString('hex');
  return { commitment: commitmentOf(salt, name), salt, name };
}

/** Whether salt and name are those of the commitment. */
export const isOf = ({ commitment, salt, name }: KeptName): boolean =>
  commitmentOf(salt, name) === commitment;

/** What is written in the name's place. */
export const markOf = ({ commitment }: Pick<KeptName, 'commitment'>): string => `${MARK}${commitment}`;

/** Commitments a text of JSON speaks of. */
export const commitmentsIn = (text: string): string[] =>
  [...text.matchAll(COMMITTED)].flatMap(([, commitment]) => (commitment === undefined ? [] : [commitment]));

/** JSON with the names put in. */
export function withNames(text: string, names: ReadonlyMap<string, string>): string {
  return text.replace(COMMITTED, (_mark, commitment: string) =>
    JSON.stringify(names.get(commitment) ?? NAME_DELETED).slice(1, -1),
  );
}

interface Payload {
  readonly battery?: { readonly owner: string };
  readonly owner?: string;
  readonly place?: { readonly to?: string };
}

/** What an entry says, with its customer's name taken out, and the name, where it has one. */
export function withoutName(
  kind: string,
  payload: object,
): { readonly payload: object; readonly kept?: KeptName } {
  const { battery, owner, place } = payload as Payload;
  if (kind === 'opened' && battery !== undefined) {
    const kept = committed(battery.owner);
    return { payload: { ...payload, battery: { ...battery, owner: markOf(kept) } }, kept };
  }
  if (kind === 'arranged' && owner !== undefined) {
    const kept = committed(owner);
    return { payload: { ...payload, owner: markOf(kept) }, kept };
  }
  if (kind === 'placed' && place?.to !== undefined) {
    const kept = committed(place.to);
    return { payload: { ...payload, place: { ...place, to: markOf(kept) } }, kept };
  }
  return { payload };
}
