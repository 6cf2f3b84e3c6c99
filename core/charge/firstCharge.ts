/** Setting the first charge: how much, how long, and the working, as handbook 2.5. */
import { chargeAfterSoakByAge, chargeFromRestedVoltage } from '../battery/stateOfCharge.ts';
import { resolveThreshold, type Basis, type Sourced } from '../runsheet/thresholds.ts';
import {
  firstChargeFigures,
  type FirstChargeFigures,
  type FirstChargeQuestion,
} from './firstChargeForecast.ts';
import { ProfileError } from './profile.ts';

export interface FirstCharge {
  /** What to set: the handbook's, the label's or the house's, or less where that would run too hot. */
  readonly current: Sourced;
  readonly ceiling: Sourced;
  /** Charge before it starts, percent. */
  readonly startPercent: number;
  /** By the rule of thumb: Ah over current, and the flat hours. */
  readonly thumbMin: number;
  /** By the model, which knows the taper; undefined for a label the model cannot be made from. */
  readonly modelMin: number | undefined;
  /** Warmest on the way, by the model, °C. */
  readonly warmestC: number | undefined;
  readonly tailMin: number;
  /** Time on charge that is planned with and waited for, not counting pauses. */
  readonly totalMin: number;
  /** The arithmetic, a line each, as one would write it on the bench. */
  readonly working: readonly string[];
}

/** What is known of a battery when its charge is set. */
export interface BeforeCharge {
  /** Months since the date code. */
  readonly ageMonths: number;
  /** Open-circuit voltage after the soak, or rested before a further charge, V. */
  readonly restedV?: number;
  /** Warmth read then, °C. */
  readonly tempC?: number;
}

/** Highest current any first charge may use: the label's rate, or half of capacity where none is known. */
export function absoluteCeilingA(basis: Basis): number {
  return basis.entered.chargeCurrentA ?? basis.type.label.chargeCurrentA ?? basis.type.capacityAh / 2;
}

/**
 * Charge after soak from the two things known of it. Age alone is good to about ±10 points, a rested
 * voltage to about ±8; they are weighted by the inverse of their variances.
 */
function startPercent(basis: Basis, ageMonths: number, soakedV: number | undefined): number {
  const byAge = chargeAfterSoakByAge(ageMonths);
  if (soakedV === undefined) return byAge;
  const byVoltage = chargeFromRestedVoltage(soakedV, basis.type.cells).mean;
  const ageWeight = 1 / 10 ** 2;
  const voltageWeight = 1 / 8 ** 2;
  return (byAge * ageWeight + byVoltage * voltageWeight) / (ageWeight + voltageWeight);
}

/** The current to set, from label or C/10, with the low school's half where the shop follows it. */
function setCurrent(basis: Basis): Sourced {
  const full = resolveThreshold('chargeCurrentA', basis);
  if (basis.rules.firstCharge !== 'low' || full.source === 'label') return full;
  return { ...full, value: full.value / 2, source: 'house', because: 'House rule: half of C/10.' };
}

const hours = (minutes: number): string => `${(minutes / 60).toFixed(1)} h`;

/** A shop's usual warmth, until the battery's own was read, °C. */
const USUAL_C = 21;
/** The model may be this much off in warmth; a setting keeps that far from the limit, K (docs/model.md). */
const WARMTH_DOUBT_K = 3;
/** Shares of the current tried when the full one would run too hot. */
const GENTLER = [0.75, 0.5, 0.35] as const;
const LEAST = 0.25;

/** What the model is asked of a charge at a current. */
export function firstChargeQuestion(basis: Basis, before: BeforeCharge, setA: number): FirstChargeQuestion {
  return {
    type: basis.type,
    startPercent: startPercent(basis, before.ageMonths, before.restedV),
    setA,
    ceilingV: resolveThreshold('ceilingV', basis).value,
    tailMin: resolveThreshold('fullTailMin', basis).value,
    tempC: Math.min(before.tempC ?? USUAL_C, resolveThreshold('startBelowC', basis).value),
  };
}

/** The model's figures; undefined for a label it cannot be made from. */
function figuresFor(basis: Basis, before: BeforeCharge, setA: number): FirstChargeFigures | undefined {
  try {
    return firstChargeFigures(firstChargeQuestion(basis, before, setA));
  } catch (error) {
    if (error instanceof RangeError || error instanceof ProfileError) return undefined;
    throw error;
  }
}

/** The current asked for, or as much of it as the model keeps clear of the warmth at which it must pause. */
function coolCurrent(basis: Basis, before: BeforeCharge): Sourced {
  const asked = setCurrent(basis);
  if (asked.source === 'label') return asked;
  const limitC = resolveThreshold('hotPauseC', basis).value - WARMTH_DOUBT_K;
  const isCool = (share: number): boolean =>
    (figuresFor(basis, before, asked.value * share)?.warmestC ?? 0) <= limitC;
  if (isCool(1)) return asked;
  const because = `At ${asked.value.toFixed(2)} A the model foresees more than ${limitC} °C.`;
  return { ...asked, value: asked.value * (GENTLER.find(isCool) ?? LEAST), source: 'model', because };
}

/**
 * Sets a first charge, or a further one.
 * @param setA the current really set, where it is not the one advised, A
 */
export function settingFor(basis: Basis, before: BeforeCharge, setA?: number): FirstCharge {
  const current = coolCurrent(basis, before);
  const amps = setA ?? current.value;
  const ceiling = resolveThreshold('ceilingV', basis);
  const efficiency = resolveThreshold('chargeEfficiency', basis).value;
  const tailMin = resolveThreshold('fullTailMin', basis).value;
  const percent = startPercent(basis, before.ageMonths, before.restedV);
  const { capacityAh } = basis.type;
  const missingAh = (1 - percent / 100) * capacityAh;
  const arithmeticMin = (missingAh / (amps * efficiency)) * 60;
  const printedMin = (basis.entered.chargeTimeH ?? basis.type.label.chargeTimeH ?? 0) * 60;
  const thumbMin = Math.max(arithmeticMin + tailMin, printedMin);
  const figures = figuresFor(basis, before, amps);
  const totalMin = Math.ceil(Math.max(figures?.doneMin ?? thumbMin, printedMin) / 5) * 5;
  const age = `${Math.round(before.ageMonths)} months old`;
  const known = before.restedV === undefined ? age : `${age}, ${before.restedV.toFixed(2)} V after the soak`;
  const working = [
    `After the soak about ${percent.toFixed(0)} % charged (${known}).`,
    `Missing: ${(100 - percent).toFixed(0)} % of ${capacityAh} Ah = ${missingAh.toFixed(1)} Ah.`,
    `${missingAh.toFixed(1)} Ah ÷ (${amps.toFixed(2)} A × ${efficiency}) = ${hours(arithmeticMin)}, and ${hours(tailMin)} at ${ceiling.value.toFixed(1)} V to prove it full: ${hours(arithmeticMin + tailMin)} by rule of thumb.`,
    ...(printedMin > arithmeticMin + tailMin ? [`The label asks for ${hours(printedMin)} in all.`] : []),
    figures
      ? `By the model, which follows the current as it tapers, ${hours(figures.doneMin)}; warmest ${figures.warmestC.toFixed(0)} °C.`
      : 'The model cannot be made from this label; the rule of thumb stands alone.',
  ];
  return {
    current,
    ceiling,
    startPercent: percent,
    thumbMin: Math.ceil(thumbMin / 5) * 5,
    modelMin: figures?.doneMin,
    warmestC: figures?.warmestC,
    tailMin,
    totalMin,
    working,
  };
}
