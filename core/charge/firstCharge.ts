/** Setting the first charge: how much, how long, and the working, as handbook 2.5. */
import {
  chargeAfterSoakByAge,
  chargeFromRestedVoltage,
  chargeStandingByAge,
} from '../battery/stateOfCharge.ts';
import { cameFilled } from '../battery/types.ts';
import { durationText } from '../clock/clockText.ts';
import { resolveThreshold, type Basis, type Sourced } from '../rules/thresholds.ts';
import {
  firstChargeFigures,
  type FirstChargeFigures,
  type FirstChargeQuestion,
} from './firstChargeForecast.ts';
import { subjectOfType } from './subject.ts';
import { ceilingsFor } from './ceilings.ts';
import { ProfileError } from './profile.ts';

export interface FirstCharge {
  /** What to set: the handbook's, the label's or the house's, or less where that would run too hot. */
  readonly current: Sourced;
  readonly ceiling: Sourced;
  /** Charge before it starts, percent. */
  readonly startPercent: number;
  /** Rested voltage it was set by, where there is one, V. */
  readonly restedV: number | undefined;
  /** By the rule of thumb: Ah over current, and the flat hours. */
  readonly thumbMin: number;
  /** By the model, which knows the taper; undefined for a label the model cannot be made from. */
  readonly modelMin: number | undefined;
  /** Warmest on the way, by the model, °C. */
  readonly warmestC: number | undefined;
  readonly tailMin: number;
  /** Of the time on charge what comes after the taper: it proves full, and hardly fills any more, min. */
  readonly provingMin: number;
  /** Never shorter than this, whatever it reads: by its kind, or the label's hours, min. */
  readonly leastMin: number;
  /** Time on charge that is planned with and waited for, not counting pauses. */
  readonly totalMin: number;
  /** The arithmetic, a line each, as one would write it on the bench. */
  readonly working: readonly string[];
}

/** What is known of a battery when its charge is set. */
export interface BeforeCharge {
  /** Months since the date code; undefined where nobody knows its age. */
  readonly ageMonths: number | undefined;
  /** Open-circuit voltage after the soak, or rested before a further charge, V. */
  readonly restedV?: number;
  /** Warmth read then, °C. */
  readonly tempC?: number;
}

/** Highest current any first charge may use: the engine's own ceiling for this battery. */
export function absoluteCeilingA({ entered, type }: Basis): number {
  return ceilingsFor(subjectOfType(type, entered), 'first-charge').amps;
}

/** Age alone says charge this well, a rested voltage this well; of no age, anything from fresh stock to three years old, points. */
const BY_AGE_SD = 10;
const BY_VOLTAGE_SD = 8;
const NO_AGE_SD = 15;
const NO_AGE_MONTHS = 24;

/** Charge after soak from the two things known of it, weighted by the inverse of their variances. */
function startPercent(basis: Basis, ageMonths: number | undefined, soakedV: number | undefined): number {
  const { construction, cells } = basis.type;
  const months = ageMonths ?? NO_AGE_MONTHS;
  const byAge = cameFilled(basis.type) ? chargeStandingByAge(months) : chargeAfterSoakByAge(months);
  if (soakedV === undefined) return byAge;
  const byVoltage = chargeFromRestedVoltage(soakedV, cells, construction).mean;
  const ageWeight = 1 / (ageMonths === undefined ? NO_AGE_SD : BY_AGE_SD) ** 2;
  const voltageWeight = 1 / BY_VOLTAGE_SD ** 2;
  return (byAge * ageWeight + byVoltage * voltageWeight) / (ageWeight + voltageWeight);
}

/** The low school's 1 A on a small battery and 2 A on a larger one (handbook 6). */
const LOW_SMALL_A = 1;
const LOW_A = 2;
const SMALL_AH = 30;
/** Without a label's word: small vehicle batteries never above 3 A, nothing above C/5 (handbook 2.5). */
const SMALL_MOST_A = 3;

/** The current to set: the label's, or the school's the shop follows. */
function setCurrent(basis: Basis): Sourced {
  const full = resolveThreshold('chargeCurrentA', basis);
  const { capacityAh } = basis.type;
  const isSmall = capacityAh <= SMALL_AH;
  const byHouse = (value: number, because: string): Sourced => ({ ...full, value, source: 'house', because });
  switch (basis.rules.firstCharge) {
    case 'low': {
      const low = Math.min(full.value, isSmall ? LOW_SMALL_A : LOW_A);
      return low < full.value ? byHouse(low, 'House rule: 1 to 2 A, overnight.') : full;
    }
    case 'fast': {
      const quick = basis.entered.quickCurrentA ?? basis.type.label.quickCurrentA;
      if (quick !== undefined)
        return { ...full, value: quick, source: 'label', because: 'The label’s quick rate, attended.' };
      if (full.source === 'label') return full;
      const fifth = capacityAh / 5;
      return byHouse(isSmall ? Math.min(fifth, SMALL_MOST_A) : fifth, 'House rule: C/5, attended.');
    }
    default:
      return full;
  }
}

const hours = (minutes: number): string => `${(minutes / 60).toFixed(1)} h`;

/** A flooded first charge by the clock is never shorter than this, min (handbook 2.5). */
const FLOODED_LEAST_MIN = 180;

function leastMinutes({ type, rules }: Basis): number {
  const isTimed = rules.firstCharge !== 'automatic' && rules.firstCharge !== 'fast';
  return isTimed && type.construction === 'flooded' ? FLOODED_LEAST_MIN : 0;
}

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
    entered: basis.entered,
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
  const isByLabel = basis.rules.firstCharge === 'label' && printedMin > 0;
  const neededByModel = figures?.doneMin ?? thumbMin;
  const neededMin = isByLabel ? printedMin : Math.max(neededByModel, printedMin);
  const totalMin = Math.ceil(Math.max(neededMin, leastMinutes(basis)) / 5) * 5;
  const total = durationText(totalMin * 60_000);
  const age =
    before.ageMonths === undefined ? 'its age unknown' : `${Math.round(before.ageMonths)} months old`;
  const known = before.restedV === undefined ? age : `${age}, ${before.restedV.toFixed(2)} V rested`;
  const working = [
    `${cameFilled(basis.type) ? 'As it came' : 'After the soak'} about ${percent.toFixed(0)} % charged (${known}).`,
    `Missing: ${(100 - percent).toFixed(0)} % of ${capacityAh} Ah = ${missingAh.toFixed(1)} Ah.`,
    `${missingAh.toFixed(1)} Ah ÷ (${amps.toFixed(2)} A × ${efficiency}) = ${hours(arithmeticMin)} at full current; while it tapers, ${hours(tailMin)} flat at ${ceiling.value.toFixed(1)} V prove it full.`,
    ...(isByLabel
      ? ['House rule: charged for as long as the label prints.']
      : printedMin > neededByModel
        ? ['The label asks for longer: it is charged that long.']
        : []),
    figures
      ? `In all ${total} on charge, ${isByLabel || printedMin > neededByModel ? 'as printed' : 'by the model, which follows the taper'}; warmest ${figures.warmestC.toFixed(0)} °C.`
      : `In all ${total} on charge: the model cannot be made from this label, the rule of thumb stands alone.`,
  ];
  return {
    current,
    ceiling,
    startPercent: percent,
    restedV: before.restedV,
    thumbMin: Math.ceil(thumbMin / 5) * 5,
    modelMin: figures?.doneMin,
    warmestC: figures?.warmestC,
    tailMin,
    provingMin: figures ? Math.max(0, totalMin - figures.taperedMin) : tailMin,
    leastMin: Math.max(leastMinutes(basis), printedMin),
    totalMin,
    working,
  };
}
