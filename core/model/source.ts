/** What is clamped to a battery at one moment. */

/**
 * A current held, a voltage held, or a source behind a resistance (a taper charger, a load resistor).
 * Charging current is positive.
 */
export type Source =
  | { readonly hold: 'current'; readonly amps: number }
  | { readonly hold: 'voltage'; readonly volts: number }
  | { readonly hold: 'resistance'; readonly volts: number; readonly ohms: number };

/** Nothing connected. */
export const OPEN: Source = { hold: 'current', amps: 0 };

/**
 * The change of current that satisfies the source, for a string that answers linearly.
 * @param currentA present current
 * @param volts terminal voltage the string would show at that current
 * @param slopeOhm its rise per ampere
 */
export function changeFor(source: Source, currentA: number, volts: number, slopeOhm: number): number {
  switch (source.hold) {
    case 'current':
      return source.amps - currentA;
    case 'voltage':
      return (source.volts - volts) / slopeOhm;
    case 'resistance':
      return (source.volts - source.ohms * currentA - volts) / (slopeOhm + source.ohms);
  }
}
