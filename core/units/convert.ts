/** Units a shop may prefer, and the way to and from the one the core reckons in. */

/** Density of water at 25 °C, g/cm³: specific gravity 25/25 is a ratio to it. @see CRC Handbook of Chemistry and Physics */
const WATER_25 = 0.99705;
/** US fluid ounce and liquid quart, avoirdupois ounce and pound. @see NIST Special Publication 811, appendix B.8 */
const ML_PER_FL_OZ = 29.5735295625;
const L_PER_QT = 0.946352946;
const G_PER_OZ = 28.349523125;
const KG_PER_LB = 0.45359237;

export interface Way {
  readonly unit: string;
  readonly to: (base: number) => number;
  readonly from: (shown: number) => number;
  /** Decimals it takes beyond those of the core's unit to say as much. */
  readonly moreDecimals: number;
}

const same = (unit: string): Way => ({ unit, to: (n) => n, from: (n) => n, moreDecimals: 0 });

const parts = (unit: string, base: number, moreDecimals: number): Way => ({
  unit,
  to: (n) => n / base,
  from: (n) => n * base,
  moreDecimals,
});

/** Each pair: the core's own unit first, then the one it can be switched to. */
export const SWITCHABLE = {
  '°C': [
    same('°C'),
    { unit: '°F', to: (c) => (c * 9) / 5 + 32, from: (f) => ((f - 32) * 5) / 9, moreDecimals: 0 },
  ],
  /** A difference of temperatures. */
  K: [same('K'), parts('°F', 5 / 9, 0)],
  mL: [same('mL'), parts('fl oz', ML_PER_FL_OZ, 1)],
  L: [same('L'), parts('qt', L_PER_QT, 1)],
  g: [same('g'), parts('oz', G_PER_OZ, 1)],
  kg: [same('kg'), parts('lb', KG_PER_LB, 0)],
  'kg/L': [same('kg/L'), parts('SG', WATER_25, 0)],
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
