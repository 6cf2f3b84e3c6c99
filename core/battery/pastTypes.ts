/**
 * Types as files kept them before construction, duty and delivery were told apart (job exports of version 1, shop files
 * to November 2026): brought up to today's shape without loss, wherever a type is read from outside.
 */
import type { Construction } from './construction.ts';
import type { Delivery, Duty, ListedType } from './types.ts';

/** What one word used to say: how it is built and how it comes. */
const KINDS: Readonly<
  Record<string, { readonly construction: Construction | 'lithium'; readonly delivery: Delivery }>
> = {
  'agm-dry-charged': { construction: 'agm', delivery: 'own-pack' },
  'flooded-dry-charged': { construction: 'flooded', delivery: 'bulk-acid' },
  'agm-activated': { construction: 'agm', delivery: 'factory-activated' },
  lithium: { construction: 'lithium', delivery: 'in-service' },
};

/** Duty was not asked: it was read off the cranking rating, and is so still for what was entered then. */
function dutyThen(construction: string, isRated: boolean): Duty {
  if (isRated) return 'starter';
  return construction === 'flooded' ? 'deep-cycle' : 'standby';
}

const isObject = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * Upcasts a type of any age; what is of today, or no type at all, comes back as it is, for the schema to judge.
 * @param type as a file or a row of the database has it
 */
export function upcastType(type: unknown): unknown {
  if (!isObject(type) || typeof type['kind'] !== 'string') return type;
  const { kind, nominalV: _nominalV, ...rest } = type;
  const known = KINDS[kind];
  if (!known) return type;
  return { ...rest, ...known, duty: dutyThen(known.construction, isObject(rest['cranking'])) };
}

/** The same of types this shop wrote itself: they were checked when they came in. */
export const upcastTypes = (types: readonly unknown[]): ListedType[] =>
  types.map((type) => upcastType(type) as ListedType);
