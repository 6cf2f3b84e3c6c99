/** The load test: how much current, for how long, and the voltage that passes at this temperature. */
import type { BatteryType } from './types.ts';

export interface LoadTest {
  readonly currentA: number;
  readonly seconds: number;
  readonly floorV: number;
  readonly basis: string;
}

/**
 * Lowest voltage that passes half the cranking rating for 15 s, 12 V, by temperature in °C.
 * @see Battery Council International, Battery Technical Manual, load test temperature table
 */
const HALF_CRANKING_FLOOR: readonly (readonly [tempC: number, volts: number])[] = [
  [-18, 8.5],
  [-12, 8.7],
  [-7, 8.9],
  [-1, 9.1],
  [4, 9.3],
  [10, 9.4],
  [16, 9.5],
  [21, 9.6],
];

/** Volts on 12 V that pass half the cranking rating; between the table's points it is interpolated. */
export function halfCrankingFloorV(tempC: number): number {
  const first = HALF_CRANKING_FLOOR[0];
  if (first && tempC <= first[0]) return first[1];
  for (let i = 1; i < HALF_CRANKING_FLOOR.length; i++) {
    const [t0, v0] = HALF_CRANKING_FLOOR[i - 1] ?? [0, 0];
    const [t1, v1] = HALF_CRANKING_FLOOR[i] ?? [0, 0];
    if (tempC <= t1) return v0 + ((tempC - t0) / (t1 - t0)) * (v1 - v0);
  }
  return 9.6;
}

/**
 * The load test a shop's rule asks for on this type.
 * @param rule the house rule `loadTest`
 * @param tempC battery temperature
 */
export function loadTestFor(
  type: BatteryType,
  rule: 'halfCranking' | 'tripleStrict' | 'tripleLenient' | 'tenSeconds',
  tempC: number,
): LoadTest {
  const scale = type.cells / 6;
  const seconds = rule === 'tenSeconds' ? 10 : 15;
  if ((rule === 'halfCranking' || rule === 'tenSeconds') && type.cranking) {
    const { amps, standard } = type.cranking;
    return {
      currentA: amps / 2,
      seconds,
      floorV: halfCrankingFloorV(tempC) * scale,
      basis: `half of ${amps} A (${standard}) for ${seconds} s at ${tempC.toFixed(0)} °C`,
    };
  }
  const floor12 = rule === 'tripleLenient' ? 9.5 : 10.5;
  return {
    currentA: type.capacityAh * 3,
    seconds,
    floorV: floor12 * scale,
    basis: `three times ${type.capacityAh} Ah for ${seconds} s`,
  };
}
