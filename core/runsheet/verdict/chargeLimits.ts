/** What a charge of a run sheet is judged by: its limits, what was missing when it began, what a sound one would show. */
import { chargeFromRestedVoltage, type Estimate } from '../../battery/stateOfCharge.ts';
import { CONSTRUCTION } from '../../battery/construction.ts';
import { leastAh, onSix, type BatteryType } from '../../battery/types.ts';
import { ceilingAt } from '../../charge/compensation.ts';
import { expectedOf } from '../../charge/expected.ts';
import { proofOf, type ChargeReading, type FullProof, type FullQuestion } from '../../charge/proofOfFull.ts';
import type { StopRuleId, Watch } from '../../charge/watch.ts';
import { areAlike } from '../definition/densities.ts';
import { isOfEdition } from '../entries/edition.ts';
import { isDrawnDown, restedV } from '../definition/restedSteps.ts';
import type { ChargeEvidence, ChargeLimits, ChargeStep, StepContext } from '../definition/step.ts';

/** A charge that is not proven full a day after it should be is looked into, not charged on, min. A night counts: nobody ends it. */
const LONGEST_TAIL_MIN = 24 * 60;
/** What stops a first charge; it begins awake, so that nothing waits for its voltage to rise. */
const FIRST_CHARGE_STOPS: readonly StopRuleId[] = [
  'over-voltage',
  'runaway',
  'dead-cell',
  'short-heating',
  'too-long',
];
/** What is known of the charge it began with is this much off, points (±10 by age and ±8 by voltage, both together twice). */
const START_DOUBT = 12;

/**
 * @param dueMin planned time on charge as it stood when the charger went on, min
 */
export function limitsOf(context: StepContext, definition: ChargeStep, dueMin: number): ChargeLimits {
  const treatment = definition.treatment?.(context);
  if (treatment) return treatment;
  return {
    ceilingV: context.threshold('ceilingV').value,
    isCompensated: true,
    mostMin: dueMin + LONGEST_TAIL_MIN,
    hotC: context.threshold('hotPauseC').value,
    end: { on: 'full', windowMin: context.threshold('fullTailMin').value },
    stops: FIRST_CHARGE_STOPS,
  };
}

/** Voltage that is never passed, whatever the warmth, V. */
const absoluteV = ({ ceilingV, isCompensated }: ChargeLimits, type: BatteryType): number =>
  isCompensated ? Math.max(onSix(CONSTRUCTION[type.construction].coldMostV, type), ceilingV) : ceilingV;

/** The voltage a charge may show at this warmth, V. */
export function ceilingNow(limits: ChargeLimits, type: BatteryType, tempC: number): number {
  const { ceilingV: volts, isCompensated } = limits;
  return ceilingAt({ volts, isCompensated }, absoluteV(limits, type), type.cells, tempC);
}

/** After a capacity test or a discharge little is left. */
const DRAWN = { low: 0, high: 25 } as const;

function byRest(volts: number | undefined, { opened: { type } }: StepContext): Estimate | undefined {
  return volts === undefined ? undefined : chargeFromRestedVoltage(volts, type.cells, type.construction);
}

/** Charge a battery has before it is charged, percent: at least, and at most. */
function startOf(context: StepContext, definition: ChargeStep): { low: number; high: number } {
  if (!definition.treatment) {
    const { startPercent, restedV: beforeV } = context.chargeSetting();
    const byVoltage = byRest(beforeV, context) ?? { low: startPercent, high: startPercent };
    // Age and voltage may contradict each other; then either may be right.
    return {
      low: Math.min(startPercent, byVoltage.low) - START_DOUBT,
      high: Math.max(startPercent, byVoltage.high) + START_DOUBT,
    };
  }
  if (isDrawnDown(context)) return DRAWN;
  const byVoltage = byRest(restedV(context), context);
  return byVoltage
    ? { low: byVoltage.low - START_DOUBT, high: byVoltage.high + START_DOUBT }
    : { low: 0, high: 100 };
}

const bounded = (percent: number): number => Math.min(100, Math.max(0, percent));

/** Least charge it lacks before this charge, Ah. */
export function missingAhOf(context: StepContext, definition: ChargeStep): number {
  return (1 - bounded(startOf(context, definition).high) / 100) * context.opened.type.capacityAh;
}

/** What every look at a charge is held against. */
export function watchOf(
  context: StepContext,
  definition: ChargeStep,
  setA: number,
  dueMin: number,
  tempC: number,
): Watch {
  const { type } = context.opened;
  const limits = limitsOf(context, definition, dueMin);
  const { ceilingV, isCompensated, mostMin, stops } = limits;
  return {
    construction: type.construction,
    cells: type.cells,
    capacityAh: type.capacityAh,
    setA,
    ceilingV,
    isCompensated,
    absoluteV: absoluteV(limits, type),
    mostMin,
    missingAh: missingAhOf(context, definition),
    expected: expectedOf({
      type,
      entered: context.basis.entered,
      startPercent: bounded(startOf(context, definition).low),
      setA,
      ceilingV,
      isCompensated,
      tempC,
    }),
    armed: isOfEdition(context.opened, 2) ? stops : [],
  };
}

function fullQuestionOf(context: StepContext, evidence: ChargeEvidence, windowMin: number): FullQuestion {
  const { type } = context.opened;
  const { limits, setA } = evidence;
  return {
    construction: type.construction,
    cells: type.cells,
    capacityAh: leastAh(type),
    ceilingV: limits.ceilingV,
    isCompensated: limits.isCompensated,
    setA,
    windowMin,
  };
}

/** Whether the readings of a charge prove it full, whatever else was to end it. */
export function readingsProof(context: StepContext, evidence: ChargeEvidence): FullProof {
  const { end } = evidence.limits;
  const windowMin =
    end.on === 'full' || end.on === 'flat' ? end.windowMin : context.threshold('fullTailMin').value;
  return proofOf(evidence, fullQuestionOf(context, evidence, windowMin));
}

/** Hourly, by a hand that may be a few minutes early. */
const HOURLY_MS = 50 * 60_000;
/** What a hydrometer repeats within, g/cm³. */
const ALIKE = 0.005;
const THREE = 3;

/** Whether the last three hourly densities of every cell are alike (handbook 3.4, equalise). */
function areEven(looks: readonly ChargeReading[]): boolean {
  const kept: (readonly number[])[] = [];
  let keptAt = Number.POSITIVE_INFINITY;
  for (const { at, cellDensities } of looks.toReversed()) {
    if (!cellDensities || keptAt - at < HOURLY_MS) continue;
    kept.push(cellDensities);
    keptAt = at;
    if (kept.length === THREE) return areAlike(kept, ALIKE);
  }
  return false;
}

/** Whether the looks say that a charge is done, before its time. */
export function isDone(context: StepContext, evidence: ChargeEvidence): boolean {
  const { limits, looks } = evidence;
  const last: ChargeReading | undefined = looks.at(-1);
  const { end } = limits;
  switch (end.on) {
    case 'full':
      return readingsProof(context, evidence).isProven;
    case 'accepts':
      return (
        last !== undefined &&
        last.currentA >= 0.95 * end.atA &&
        last.voltageV < end.belowV &&
        last.voltageV >= end.fromV
      );
    case 'voltage':
      return (
        last !== undefined &&
        last.voltageV >= ceilingNow({ ...limits, ceilingV: end.volts }, context.opened.type, last.tempC)
      );
    case 'flat':
      return readingsProof(context, evidence).isFlat ?? false;
    case 'densities':
      return areEven(looks);
    case 'clock':
      return false;
  }
}
