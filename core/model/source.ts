/** What is clamped to a battery at one moment. */

/**
 * A current held, a voltage held, or a source behind a resistance (a taper charger, a load resistor).
 * Charging current is positive.
 */
export type Source =
  | { readonly hold: 'current'; readonly amps: number }
  /** Volts by case temperature: a compensated charger follows it within a step. */
  | { readonly hold: 'voltage'; readonly voltsAt: (caseC: number) => number }
  | { readonly hold: 'resistance'; readonly volts: number; readonly ohms: number };

/** Nothing connected. */
export const OPEN: Source = { hold: 'current', amps: 0 };

/**
 * The change of current that satisfies the source, for a string that answers linearly.
 * @param caseC case temperature of the battery the source is clamped to
 * @param currentA present current
 * @param volts terminal voltage the string would show at that current
 * @param slopeOhm its rise per ampere
 */
export function changeFor(
  source: Source,
  caseC: number,
  currentA: number,
  volts: number,
  slopeOhm: number,
): number {
  switch (source.hold) {
    case 'current':
      return source.amps - currentA;
    case 'voltage':
      return (source.voltsAt(caseC) - volts) / slopeOhm;
    case 'resistance':
      return (source.volts - source.ohms * currentA - volts) / (slopeOhm + source.ohms);
  }
}
