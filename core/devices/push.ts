/** What a probe sends by itself, read as its profile says; nothing of it is believed that is no figure in range. */
import { within } from './driver.ts';
import { PUSHED, type DeviceProfile } from './profile.ts';
import type { Sample } from './samples.ts';
import { DeviceError } from './wire.ts';

/** Readings in one message: a gateway that was cut off for ten minutes sends them all. */
export const MOST_PUSHED = 600;
/** What is older than this is no reading of the charge at hand, s. */
export const OLDEST_PUSHED_S = 86_400;

const isRecord = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * How long ago it was read, for what had to wait.
 * @throws DeviceError `garbage` where that is no such time
 */
function agoMs({ agoS = 0 }: Readonly<Record<string, unknown>>): number {
  if (typeof agoS === 'number' && agoS >= 0 && agoS <= OLDEST_PUSHED_S) return 1000 * agoS;
  throw new DeviceError(
    'garbage',
    `agoS: how many seconds ago it was read, from 0 to ${OLDEST_PUSHED_S}; “${String(agoS).slice(0, 40)}” is not.`,
  );
}

/** @throws DeviceError `garbage` naming the first that is no figure in range */
function sampleOf(profile: DeviceProfile, said: unknown, now: number): Sample {
  const names = profile.speech.protocol === 'push' ? profile.speech.asks : {};
  if (!isRecord(said)) throw new DeviceError('garbage', 'A reading is an object, such as {"volts": 12.61}.');
  const figures: Partial<Record<(typeof PUSHED)[number], number>> = {};
  for (const what of PUSHED) {
    const name = names[what];
    const value = name === undefined ? undefined : said[name];
    if (name === undefined || value === undefined || value === null) continue;
    if (typeof value !== 'number' || !Number.isFinite(value))
      throw new DeviceError('garbage', `${name}: a number; “${String(value).slice(0, 40)}” is not.`);
    figures[what] = within(profile, what, value);
  }
  if (Object.keys(figures).length === 0)
    throw new DeviceError('garbage', `It sends none of ${Object.values(names).join(', ')}.`);
  return { at: Math.round(now - agoMs(said)), ...figures };
}

/**
 * All readings of a message, the oldest first.
 * @param message one reading, or a list of up to 600: figures by the names of the profile, and `agoS` where one had to wait; other names are passed over
 * @param now shop time, ms
 * @throws DeviceError `garbage` with what is wrong; none of it counts then
 */
export function pushedSamples(profile: DeviceProfile, message: unknown, now: number): readonly Sample[] {
  const said: readonly unknown[] = Array.isArray(message) ? message : [message];
  if (said.length === 0 || said.length > MOST_PUSHED)
    throw new DeviceError(
      'garbage',
      `A message holds 1 to ${MOST_PUSHED} readings; this one ${said.length}.`,
    );
  return said.map((one) => sampleOf(profile, one, now)).sort((a, b) => a.at - b.at);
}
