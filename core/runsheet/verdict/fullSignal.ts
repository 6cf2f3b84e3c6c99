/** A charger's own word that it is full: only from one that has such a word, and beside the readings. */
import { percentText } from '../../units/percent.ts';
import { givesFullSignal } from '../../charge/charger.ts';
import type { ChargeEvidence, StepContext } from '../definition/step.ts';

/** No charger tells full from surface charge sooner (reasoned: it holds its voltage that long before its lamp changes). */
const LEAST_MIN = 30;
/** A look this old says nothing of the moment the lamp changed. */
const LOOK_WITHIN_MIN = 30;
/** A float is held after the lamp: from here up it does not speak against full, V a cell. */
const FLOAT_CELL_V = 13.2 / 6;
/** Twice the tail of a full battery is no tail, share of capacity. */
const STILL_TAKING_SHARE = 1 / 25;
const MINUTE = 60_000;

/** The shortest time the missing charge takes at the set current, min. */
export function leastMinutes({ missingAh, setA }: Pick<ChargeEvidence, 'missingAh' | 'setA'>): number {
  return Math.max(LEAST_MIN, (missingAh / setA) * 60);
}

/** What the last look says against a lamp, in a sentence; undefined where it says nothing against it. */
export function contradiction(
  context: StepContext,
  { looks }: Pick<ChargeEvidence, 'looks'>,
): string | undefined {
  const { cells, capacityAh } = context.opened.type;
  const last = looks.at(-1);
  if (!last) return undefined;
  if (last.voltageV < FLOAT_CELL_V * cells)
    return `The charger shows full, but the battery stands at ${last.voltageV.toFixed(2)} V on charge: no full one does.`;
  return last.currentA > STILL_TAKING_SHARE * capacityAh
    ? `The charger shows full, but ${last.currentA.toFixed(2)} A still go in, ${percentText(last.currentA / capacityAh)} of capacity.`
    : undefined;
}

/**
 * Why a full signal is not taken.
 * @param onMin minutes on charge
 * @param at now, ms
 */
export function againstFullSignal(
  context: StepContext,
  evidence: ChargeEvidence,
  onMin: number,
  at: number,
): string | undefined {
  const { charger, looks, missingAh, setA } = evidence;
  if (!charger)
    return 'Which charger shows full is not on record; only one with a full signal of its own can.';
  if (!givesFullSignal(charger))
    return `${charger.name} has no full signal; voltage, current and time prove it full.`;
  const leastMin = leastMinutes(evidence);
  if (onMin < leastMin)
    return `It shows full after ${Math.round(onMin)} min; ${
      missingAh > 0
        ? `at ${setA.toFixed(2)} A the ${missingAh.toFixed(1)} Ah that are missing at least take ${Math.ceil(leastMin)} min`
        : `nothing tells full from surface charge within ${LEAST_MIN} min`
    }. Leave it on.`;
  const last = looks.at(-1);
  if (!last || at - last.at > LOOK_WITHIN_MIN * MINUTE)
    return 'Read volts, amps and warmth first: the charger’s lamp stands beside the readings.';
  const against = contradiction(context, evidence);
  return against === undefined ? undefined : `${against} Look again in half an hour.`;
}
