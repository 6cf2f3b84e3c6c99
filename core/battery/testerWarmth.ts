/** What the cold does to a conductance tester's figure, and where it says nothing (handbook 3.2). */

const REFERENCE_C = 25;
/** Of its figure, per kelvin below 25 °C; the middle of 0.6–0.8 %. */
const SHARE_PER_K = 0.007;
/** What the correction itself is unsure of, per kelvin. */
const UNSURE_PER_K = 0.001;
/** Below freezing no verdict; above this testers are not rated (makers' range). */
const FROM_C = 0;
const TO_C = 45;

export type AtReference =
  | {
      readonly isTold: true;
      readonly amps: number;
      /** One standard deviation of the correction, A. */ readonly unsureA: number;
    }
  | { readonly isTold: false; readonly why: string };

/**
 * A tester's figure as it would be at 25 °C.
 * @param amps shown
 * @param tempC of the battery; undefined where it was not read, which is taken for 25 °C with the room's doubt
 */
export function testerAt25(amps: number, tempC: number | undefined): AtReference {
  if (tempC === undefined) return { isTold: true, amps, unsureA: amps * SHARE_PER_K * 5 };
  if (tempC < FROM_C || tempC > TO_C)
    return {
      isTold: false,
      why: `read at ${tempC.toFixed(0)} °C: ${tempC < FROM_C ? 'below freezing a tester condemns good ones' : 'too warm for a tester'}; bring it to 20–25 °C and read again`,
    };
  const kelvin = REFERENCE_C - tempC;
  return {
    isTold: true,
    amps: amps / (1 - SHARE_PER_K * kelvin),
    unsureA: amps * UNSURE_PER_K * Math.abs(kelvin),
  };
}
