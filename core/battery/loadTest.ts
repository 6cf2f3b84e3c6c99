/** The load test: how much current, for how long, and the voltage that passes at this temperature. */
import { linearThrough } from '../units/linear.ts';
import { onSaeScaleA } from './crankingStandards.ts';
import { leastAh, onSix, type BatteryType } from './types.ts';

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
export const halfCrankingFloorV = linearThrough(HALF_CRANKING_FLOOR);

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
  const scale = onSix(1, type);
  const seconds = rule === 'tenSeconds' ? 10 : 15;
  const rated = type.cranking;
  if ((rule === 'halfCranking' || rule === 'tenSeconds') && rated && isBelievable(rated, type.capacityAh)) {
    const saeA = onSaeScaleA(rated);
    const printed =
      rated.standard === 'SAE'
        ? `half of ${rated.amps} A (SAE)`
        : `half of about ${saeA.toFixed(0)} A SAE, by rule of thumb what ${rated.amps} A ${rated.standard} are`;
    return {
      currentA: saeA / 2,
      seconds,
      floorV: halfCrankingFloorV(tempC) * scale,
      basis: `${printed}, for ${seconds} s at ${tempC.toFixed(0)} °C`,
    };
  }
  const floor12 = rule === 'tripleLenient' ? 9.5 : 10.5;
  // The cold lowers this floor as it lowers the other; warmth above 21 °C gives no bonus (handbook 3.2).
  const coldV = WARM_FLOOR_V - halfCrankingFloorV(tempC);
  return {
    currentA: leastAh(type) * 3,
    seconds,
    floorV: (floor12 - coldV) * scale,
    basis: `three times ${leastAh(type)} Ah for ${seconds} s${coldV > 0.005 ? ` at ${tempC.toFixed(0)} °C` : ''}`,
  };
}

/** A load tester without volts: where its needle stands, or which lamp is lit. */
export const LOAD_COLOURS = { green: 'Green', yellow: 'Yellow', red: 'Red' } as const;
export type LoadColour = keyof typeof LOAD_COLOURS;

export const isLoadColour = (value: unknown): value is LoadColour =>
  typeof value === 'string' && value in LOAD_COLOURS;

/**
 * What each colour says on six cells, V from the floor of the test. The green begins at the floor and ends where no lead-acid
 * battery stands under such a load; the yellow is printed about a volt wide; the red is all below, to a dead cell or two
 * (reasoned from how such scales are drawn: they state no figures).
 */
const COLOUR_V: Readonly<Record<LoadColour, readonly [number, number]>> = {
  green: [0, 1.8],
  yellow: [-1, 0],
  red: [-5, -1],
};

/** The middle of a colour's interval and half its width, V. */
export function voltsOfColour(
  colour: LoadColour,
  { floorV }: Pick<LoadTest, 'floorV'>,
  type: Pick<BatteryType, 'cells'>,
): { readonly volts: number; readonly within: number } {
  const [low, high] = COLOUR_V[colour];
  return { volts: floorV + onSix((low + high) / 2, type), within: onSix((high - low) / 2, type) };
}

/** The table's value at 21 °C and above. */
const WARM_FLOOR_V = 9.6;
/** Cold-cranking amps a starter has per ampere-hour on the SAE scale, at least and at most (makers' lists). */
const BELIEVABLE_A_PER_AH = { least: 3, most: 22 } as const;

/** Whether a rating, brought to the SAE scale, is one a battery of this size can have: else it is read under another standard. */
function isBelievable(rated: NonNullable<BatteryType['cranking']>, capacityAh: number): boolean {
  const perAh = onSaeScaleA(rated) / capacityAh;
  return perAh >= BELIEVABLE_A_PER_AH.least && perAh <= BELIEVABLE_A_PER_AH.most;
}
