/** A first charge run forward on the model, beside the rule of thumb: how long, and what the meter will show. */

import { densityAt } from '../electrolyte/density.ts';
import type { BatteryType } from '../battery/types.ts';
import { fillDryCharged } from '../model/birth.ts';
import { rest } from '../model/discharge.ts';
import { ratingOf, subjectOfType } from '../model/fromType.ts';
import { soundBattery } from '../model/parameters.ts';
import { simplified } from './thin.ts';
import { ChargeEngine } from './engine.ts';
import { ModelRun } from './modelRun.ts';
import type { Profile } from './profile.ts';

export interface FirstChargeQuestion {
  readonly type: BatteryType;
  /** Charge after the soak, percent. */
  readonly startPercent: number;
  readonly setA: number;
  readonly ceilingV: number;
  /** Two hours flat, or what the house asks for, min. */
  readonly tailMin: number;
  readonly tempC: number;
}

export interface FirstChargeCurve {
  /** Moments on charge, min, with what the meter shows there. */
  readonly minutes: readonly number[];
  readonly volts: readonly number[];
  readonly amps: readonly number[];
  readonly tempC: readonly number[];
  /** When it is proven full, and how much of that is the flat tail, min. */
  readonly doneMin: number;
  readonly because: string;
}

const MINUTE = 60;
const SOAKED_S = 3 * 3600;
/** Nobody waits longer for a first charge, s. */
const LONGEST_S = 48 * 3600;
/** Points closer to the line than this share of the range are not kept. */
const UNSEEN = 1 / 400;
/** The taper is over at this share of capacity; a twentieth lower the meter shows nothing new. */
const TAPERED = 1 / 50;

function planOf({ type, setA, ceilingV, tailMin }: FirstChargeQuestion): Profile {
  const stage = { amps: setA, volts: ceilingV, isCompensated: true };
  return {
    id: 'tenth-timed',
    name: 'First charge',
    purpose: 'first-charge',
    reason: 'As set on the run sheet.',
    isAttended: false,
    stages: [
      {
        ...stage,
        id: 'bulk',
        name: 'Bulk and taper',
        exits: [{ on: 'current-below', amps: type.capacityAh * TAPERED, next: 'flat' }],
      },
      {
        ...stage,
        id: 'flat',
        name: 'Flat',
        exits: [{ on: 'time', seconds: tailMin * MINUTE, next: 'full' }],
      },
    ],
  };
}

/** Acid of a pack, or as usual for the kind where the type has none: mL and g/cm³. */
function acidOf(type: BatteryType): { acidMl: number; density: number } {
  if (type.pack) return { acidMl: type.pack.volumeMl, density: type.pack.densityKgPerL };
  const [cell] = soundBattery(ratingOf(type)).cells;
  if (!cell) return { acidMl: 0, density: 1.28 };
  const solutionG = cell.acidG + cell.waterG;
  const density = densityAt(cell.acidG / solutionG, 25);
  return { acidMl: (solutionG / density) * type.cells, density };
}

/**
 * @throws RangeError or ProfileError in one sentence when type or setting are impossible
 */
export function forecastFirstCharge(question: FirstChargeQuestion): FirstChargeCurve {
  const { type, startPercent, tempC } = question;
  const cells = fillDryCharged(soundBattery(ratingOf(type)), {
    ...acidOf(type),
    ageMonths: 0,
    lostShare: 1 - startPercent / 100,
    tempC,
  });
  rest(cells, SOAKED_S);
  const run = new ModelRun(cells, new ChargeEngine(planOf(question), subjectOfType(type)), {
    ambientC: tempC,
  });
  run.runUntil(LONGEST_S);
  const { trace } = run;
  const all = Array.from({ length: trace.length }, (_, row) => trace.seconds(row) / MINUTE);
  const column = (name: 'volts' | 'amps' | 'tempC'): number[] => all.map((_, row) => trace.value(row, name));
  const columns = [column('volts'), column('amps'), column('tempC')];
  const rows = [
    ...new Set(
      columns.flatMap((values) =>
        simplified(all, values, (Math.max(...values) - Math.min(...values)) * UNSEEN),
      ),
    ),
  ].sort((a, b) => a - b);
  const pick = (values: readonly number[] | undefined): number[] => rows.map((row) => values?.[row] ?? 0);
  return {
    minutes: pick(all),
    volts: pick(columns[0]),
    amps: pick(columns[1]),
    tempC: pick(columns[2]),
    doneMin: run.atS / MINUTE,
    because: run.engineState.because,
  };
}
