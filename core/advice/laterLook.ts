/** What each check that is made after a charge would show of a candidate. */
import { atReference } from '../candidate/piece.ts';
import type { Setting } from '../candidate/traits.ts';
import type { CellString } from '../model/cellString.ts';
import { postVolts } from '../model/discharge.ts';
import { get } from '../model/state.ts';
import { stepperOf } from '../model/stepper.ts';
import { bubblesOf, conductanceA, type Bubbles } from '../observation/modelView.ts';
import { quickLoad } from '../observation/quickTests.ts';
import type { Journey } from './journey.ts';
import type { Later } from './later.ts';

/** A look under the caps is taken while a current flows that makes full cells gas. */
const TRICKLE_SHARE = 1 / 50;
const TRICKLE_S = 120;
const BUBBLE_VALUE: Readonly<Record<Bubbles, number>> = { none: 0, few: 1, lively: 2 };
/** A starter's current (practice), as in `belief/likelihood.ts`. */
const CRANK_PER_AH = 3;
const CRANK_S = 3;

function onTrickle(journey: Journey, setting: Setting): CellString {
  const { cells } = journey.copy();
  const amps = setting.rating.capacityAh * TRICKLE_SHARE;
  stepperOf(cells).step({ hold: 'current', amps }, TRICKLE_S);
  return cells;
}

/**
 * @param rested at the end of its first step, a day later
 * @param proof what it then gives, share of the rating, and loses in another day, V
 */
export function laterOf(
  rested: Journey,
  { capacity, lostInDayV }: { readonly capacity: number; readonly lostInDayV: number },
  setting: Setting,
): Later {
  const { construction, cells: count, capacityAh } = setting.rating;
  const restedV = postVolts(rested.cells);
  const isOpenable = construction === 'flooded';
  const trickled = onTrickle(rested, setting);
  const each = Array.from({ length: count }, (_, index) => index + 1);
  const warm = trickled.groupOf.map((group) => get(trickled.state.excess, group));
  const meanK = warm.reduce((sum, kelvin) => sum + kelvin, 0) / count;
  const { early } = rested;
  return {
    early: early ? [early.volts, early.amps, early.tempC] : [],
    charge: [rested.takenAh, ...rested.chargedH.slice(-1).map(({ hours }) => hours)],
    rest: [restedV],
    tester: [conductanceA(atReference(rested.copy().cells))],
    bubbles: isOpenable ? each.map((cell) => BUBBLE_VALUE[bubblesOf(trickled, cell)]) : [],
    warmth: warm.slice(0, -1).map((kelvin) => kelvin - meanK),
    crank: [quickLoad(rested.copy().cells, CRANK_PER_AH * capacityAh, CRANK_S).lowestV],
    hold: [lostInDayV],
    capacity: [capacity],
  };
}
