/**
 * What a maintainer is to hold a battery at: a voltage, by its kind, lower where it is warm (handbook 4: 13.2–13.5 V flooded,
 * 13.5–13.8 V AGM and gel on six cells at 25 °C, −3 mV a cell and kelvin).
 */
import { CONSTRUCTION } from '../battery/construction.ts';
import { nominalV, onSix } from '../battery/types.ts';
import type { Charger } from '../charge/charger.ts';
import { compensatedV } from '../charge/compensation.ts';
import type { Shelved } from './overview.ts';
import { USUAL_WARMTH, warmthAt } from './warmth.ts';

export interface FloatLimits {
  /** V */
  readonly low: number;
  readonly high: number;
}

/** @param now which month it is where it stands, ms */
export function floatLimits(
  { construction, cells, place }: Pick<Shelved, 'construction' | 'cells' | 'place'>,
  now: number,
): FloatLimits {
  const tempC = warmthAt(place?.warmth ?? USUAL_WARMTH, now);
  const { floatFromV, floatToV } = CONSTRUCTION[construction];
  const held = (volts: number): number => compensatedV(onSix(volts, { cells }), cells, tempC, true);
  return { low: held(floatFromV), high: held(floatToV) };
}

/** Whether it can hold a battery for months: by a programme of its own, or by what its leaflet says of its pulses. */
export const maintains = ({ modes, pulses, kind }: Charger): boolean =>
  modes?.includes('maintain') === true || pulses?.maintainFromV !== undefined || kind === 'programmable';

export interface Suits {
  /** What it holds the battery between by itself, V; none where it is set by hand or says nothing. */
  readonly held?: FloatLimits;
  /** A meter shows its pulses as unrest: the mean counts. */
  readonly isPulsed: boolean;
  /** Why it is not for this battery, where it is not. */
  readonly against?: string;
}

/**
 * Whether a charger may maintain a battery where it stands: by what its own leaflet says it holds, against what the battery is to
 * be held at.
 */
export function suits(
  charger: Charger,
  one: Pick<Shelved, 'construction' | 'cells' | 'place'>,
  now: number,
): Suits {
  const { pulses, name } = charger;
  const isPulsed = pulses !== undefined;
  const volts = nominalV(one);
  if (!charger.nominalV.includes(volts)) return { isPulsed, against: `${name} is not made for ${volts} V.` };
  if (charger.kind === 'taper')
    return {
      isPulsed,
      against: `${name} holds a current, not a voltage: it dries a small one out and starves a large one.`,
    };
  if (pulses?.maintainFromV === undefined || pulses.maintainToV === undefined) return { isPulsed };
  const held = { low: onSix(pulses.maintainFromV, one), high: onSix(pulses.maintainToV, one) };
  const { low, high } = floatLimits(one, now);
  const band = `${held.low.toFixed(2)} to ${held.high.toFixed(2)} V`;
  if (held.high > high)
    return {
      held,
      isPulsed,
      against: `${name} holds ${band}: above ${high.toFixed(2)} V it dries this one out.`,
    };
  if (held.high < low)
    return {
      held,
      isPulsed,
      against: `${name} holds ${band}: below ${low.toFixed(2)} V this one does not stay full.`,
    };
  return { held, isPulsed };
}
