/** Units a shop may prefer, and the way to and from the one the core reckons in. */

/** Density of water at 25 °C, g/cm³: specific gravity 25/25 is a ratio to it. @see CRC Handbook of Chemistry and Physics */
const WATER_25 = 0.99705;
/** US fluid ounce and avoirdupois ounce. @see NIST Special Publication 811 */
const ML_PER_FL_OZ = 29.5735295625;
const G_PER_OZ = 28.349523125;

interface Way {
  readonly unit: string;
  readonly to: (base: number) => number;
  readonly from: (shown: number) => number;
  readonly moreDecimals: number;
}

const same = (unit: string): Way => ({ unit, to: (n) => n, from: (n) => n, moreDecimals: 0 });

/** Each pair: the core's own unit first, then the one it can be switched to. */
export const SWITCHABLE = {
  '°C': [
    same('°C'),
    { unit: '°F', to: (c) => (c * 9) / 5 + 32, from: (f) => ((f - 32) * 5) / 9, moreDecimals: 0 },
  ],
  mL: [
    same('mL'),
    { unit: 'fl oz', to: (ml) => ml / ML_PER_FL_OZ, from: (oz) => oz * ML_PER_FL_OZ, moreDecimals: 1 },
  ],
  g: [same('g'), { unit: 'oz', to: (g) => g / G_PER_OZ, from: (oz) => oz * G_PER_OZ, moreDecimals: 1 }],
  'kg/L': [
    same('kg/L'),
    { unit: 'SG', to: (d) => d / WATER_25, from: (sg) => sg * WATER_25, moreDecimals: 0 },
  ],
} as const satisfies Readonly<Record<string, readonly [Way, Way]>>;

export type SwitchableUnit = keyof typeof SWITCHABLE;

export function isSwitchable(unit: string): unit is SwitchableUnit {
  return unit in SWITCHABLE;
}

/** The way a unit is shown when switched over, or as it is. */
export function shownAs(unit: string, isSwitched: boolean): Way {
  if (!isSwitchable(unit)) return same(unit);
  return SWITCHABLE[unit][isSwitched ? 1 : 0];
}
