/** Setting the first charge: how much, how long, and the working, as handbook 2.5. */
import { chargeAfterSoakByAge, chargeFromRestedVoltage } from '../battery/stateOfCharge.ts';
import { resolveThreshold, type Basis, type Sourced } from '../runsheet/thresholds.ts';

export interface FirstCharge {
  readonly current: Sourced;
  readonly ceiling: Sourced;
  /** Charge before it starts, percent. */
  readonly startPercent: number;
  readonly bulkMin: number;
  readonly tailMin: number;
  /** Time on charge, not counting pauses. */
  readonly totalMin: number;
  /** The arithmetic, a line each, as one would write it on the bench. */
  readonly working: readonly string[];
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

/**
 * @param ageMonths months since the date code
 * @param soakedV open-circuit voltage after the soak, once measured, V
 */
export function settingFor(basis: Basis, ageMonths: number, soakedV?: number): FirstCharge {
  const current = setCurrent(basis);
  const ceiling = resolveThreshold('ceilingV', basis);
  const efficiency = resolveThreshold('chargeEfficiency', basis).value;
  const tailMin = resolveThreshold('fullTailMin', basis).value;
  const percent = startPercent(basis, ageMonths, soakedV);
  const { capacityAh } = basis.type;
  const missingAh = (1 - percent / 100) * capacityAh;
  const arithmeticMin = (missingAh / (current.value * efficiency)) * 60;
  const printedMin = (basis.entered.chargeTimeH ?? basis.type.label.chargeTimeH ?? 0) * 60;
  const bulkMin = Math.max(arithmeticMin, printedMin - tailMin);
  const totalMin = Math.ceil((bulkMin + tailMin) / 5) * 5;
  const age = `${Math.round(ageMonths)} months old`;
  const known = soakedV === undefined ? age : `${age}, ${soakedV.toFixed(2)} V after the soak`;
  const working = [
    `After the soak about ${percent.toFixed(0)} % charged (${known}).`,
    `Missing: ${(100 - percent).toFixed(0)} % of ${capacityAh} Ah = ${missingAh.toFixed(1)} Ah.`,
    `${missingAh.toFixed(1)} Ah ÷ (${current.value.toFixed(2)} A × ${efficiency}) = ${(arithmeticMin / 60).toFixed(1)} h.`,
    ...(printedMin > arithmeticMin + tailMin
      ? [`The label asks for ${(printedMin / 60).toFixed(1)} h in all.`]
      : []),
    `Then ${(tailMin / 60).toFixed(0)} h at ${ceiling.value.toFixed(1)} V, flat, to prove it full.`,
  ];
  return { current, ceiling, startPercent: percent, bulkMin, tailMin, totalMin, working };
}
