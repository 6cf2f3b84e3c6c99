/**
 * Entries as they were written before, brought up to today's form where they are read; what stands in the record stays
 * as it was. Each step brings one version to the next, so an entry of any age goes through all that came after it.
 *
 * 2: construction, duty and delivery of a type are told apart (`battery/pastTypes.ts`).
 * 3: an entry has a key of its own, and corrections name that, not a place.
 */
import { upcastType } from '../../battery/pastTypes.ts';
import { entryKey } from './entryKey.ts';

/** Form entries are written in today. */
export const EVENT_VERSION = 3;

type Fields = Readonly<Record<string, unknown>>;

const isObject = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

function withType(event: Fields): Fields {
  const { kind, payload } = event;
  if (kind !== 'opened' || !isObject(payload)) return event;
  const type = upcastType(payload['type']);
  return type === payload['type'] ? event : { ...event, payload: { ...payload, type } };
}

function withKey(event: Fields): Fields {
  const { key, seq, payload } = event;
  const named = typeof key === 'string' || typeof seq !== 'number' ? event : { ...event, key: entryKey(seq) };
  const replaces = isObject(payload) ? payload['replaces'] : undefined;
  return typeof replaces === 'number'
    ? { ...named, payload: { ...(payload as Fields), replaces: entryKey(replaces) } }
    : named;
}

/** The step that leads to each version, the oldest first. */
const UPCASTERS: readonly (readonly [to: number, up: (event: Fields) => Fields])[] = [
  [2, withType],
  [3, withKey],
];

/**
 * Upcasts an entry of a job's log.
 * @param event as it was read; what is no entry comes back as it is, for the schema to judge
 * @param version form it was written in; each step leaves alone what is of today
 */
export function upcastEvent(event: unknown, version = 1): unknown {
  if (!isObject(event)) return event;
  return UPCASTERS.reduce((read, [to, up]) => (to > version ? up(read) : read), event);
}

/**
 * Upcasts a whole job's file that lists its entries as events (versions 1 and 2 of the file).
 * @param file as it was read; what is no such file comes back as it is
 */
export function upcastExport(file: unknown): unknown {
  return isObject(file) && Array.isArray(file['events'])
    ? { ...file, events: (file['events'] as readonly unknown[]).map((event) => upcastEvent(event)) }
    : file;
}
