/** Tables of docs/model/results.md that hold the model against published figures and read its faults. */
import { PUBLISHED, RATE_CLASSES } from '@cork-ember/core/battery/dischargeRates.ts';
import type { ModelRun } from '@cork-ember/core/charge/modelRun.ts';
import type { Profile } from '@cork-ember/core/charge/profile.ts';
import { bubblesOf, dipProbes, hydrometerAt, loadV, probeC } from '@cork-ember/core/observation/modelView.ts';
import { SOUND, type CellCondition } from '@cork-ember/core/model/battery.ts';
import type { CellString } from '@cork-ember/core/model/cellString.ts';
import { postVolts, rest } from '@cork-ember/core/model/discharge.ts';
import { makeBattery, type Fault } from '@cork-ember/core/model/faults.ts';
import { soundBattery, type Rating } from '@cork-ember/core/model/parameters.ts';
import { CLASS_CASES, modelledShare } from '@cork-ember/core/test/classRates.ts';
import { AGM_80, chargeOn, EVERY_FAULT, FLOODED_70, steadyCharge } from '@cork-ember/core/test/modelBench.ts';

const HOUR = 3600;

export function standing(
  rating: Rating,
  condition: Partial<CellCondition> = {},
  faults: readonly Fault[] = [],
  tempC = 25,
): CellString {
  return makeBattery({
    parameters: soundBattery(rating),
    condition: { ...SOUND, ...condition },
    faults,
    tempC,
  });
}

export const table = (head: readonly string[], rows: readonly (readonly (string | number)[])[]): string =>
  [head, head.map(() => '---'), ...rows].map((row) => `| ${row.join(' | ')} |`).join('\n');

export function charged(rating: Rating, cells: CellString, plan: Profile, hours: number): ModelRun {
  const run = chargeOn(rating, cells, plan);
  run.runUntil(hours * HOUR);
  return run;
}

export function gasTable(): string {
  const held = (rating: Rating, cellV: number, hours: number, tempC: number): ModelRun => {
    const plan = steadyCharge(rating, rating.capacityAh / 10, hours);
    const stages = plan.stages.map((stage) => ({ ...stage, volts: cellV * 6, isCompensated: false }));
    return charged(rating, standing(rating, {}, [], tempC), { ...plan, stages }, hours);
  };
  const milliamps = (rating: Rating, cellV: number): string =>
    `${((held(rating, cellV, 72, 25).cells.currentA / rating.capacityAh) * 1000).toFixed(2)} mA/Ah`;
  const water = held(FLOODED_70, 2.4, 500, 40);
  const lost = water.trace.value(water.trace.length - 1, 'waterLostG') / FLOODED_70.capacityAh;
  return table(
    ['', 'published', 'model'],
    [
      ['AGM, float 2.27 V a cell, 72 h', '0.2–1 mA/Ah (Berndt 1997)', milliamps(AGM_80, 2.27)],
      ['AGM, boost 2.40 V a cell', 'at most 8 mA/Ah (IEC 62485-2)', milliamps(AGM_80, 2.4)],
      ['flooded, float 2.25 V a cell', 'at most 5 mA/Ah (IEC 62485-2)', milliamps(FLOODED_70, 2.25)],
      ['flooded, boost 2.40 V a cell', 'at most 20 mA/Ah (IEC 62485-2)', milliamps(FLOODED_70, 2.4)],
      [
        'flooded, 500 h at 14.4 V and 40 °C, water',
        '1–4 g/Ah (EN 50342-1, W3 to W5)',
        `${lost.toFixed(1)} g/Ah`,
      ],
    ],
  );
}

/** Each class at its published rates: current over capacity, and how far from the middle of what is published. */
export function classTable(): string {
  const hours = [20, 10, 5, 3, 1, 0.5, 0.25];
  const rows = CLASS_CASES.map(({ of, name, rating, isFitted }) => {
    const shares = hours.map((h) => {
      const published = PUBLISHED[of].find((one) => one.hours === h);
      if (!published) return '–';
      const share = modelledShare(rating, published);
      const off = (share / ((published.low + published.high) / 2) - 1) * 100;
      return `${share.toFixed(3)} (${off < 0 ? '−' : '+'}${Math.abs(off).toFixed(0)} %)`;
    });
    return [RATE_CLASSES[of], name, ...shares, isFitted ? 'fitted' : 'predicted'];
  });
  return table(['class', 'battery', '20 h', '10 h', '5 h', '3 h', '1 h', '½ h', '¼ h', ''], rows);
}

export function densityTable(): string {
  return table(
    ['acid at 25 °C, g/cm³', 'published', 'model'],
    (
      [
        [1.265, 12.69],
        [1.28, 12.78],
        [1.3, 12.9],
      ] as const
    ).map(([density, published]) => {
      const cells = standing({ ...AGM_80, acidDensity: density });
      rest(cells, 60);
      return [density.toFixed(3), `${published.toFixed(2)} V`, `${postVolts(cells).toFixed(2)} V`];
    }),
  );
}

/** What each fault looks like to the instruments: at rest, under load, and on a charge at C/10 to 14.4 V. */
export function faultTable(): string {
  const rows = EVERY_FAULT.map(([name, faults]): string[] => {
    const made = (charge: number): CellString => standing(FLOODED_70, { charge }, faults);
    const rested = made(0.8);
    rest(rested, 4 * HOUR);
    const sums = dipProbes(rested);
    const middle = sums.slice(1, -1);
    const restV = postVolts(rested);
    const densities = rested.groupOf.map((_, index) => hydrometerAt(rested, index + 1));
    const loaded = loadV(made(0.8), 210, 15);
    const run = charged(FLOODED_70, made(0.8), steadyCharge(FLOODED_70, 7, 8), 8);
    const temps = run.cells.groupOf.map((_, index) => probeC(run.cells, index + 1));
    const bubbles = run.cells.groupOf.map((_, index) => bubblesOf(run.cells, index + 1));
    const silent = bubbles.flatMap((seen, index) => (seen === 'none' ? [index + 1] : []));
    const weeks = made(1);
    rest(weeks, HOUR);
    const fresh = postVolts(weeks);
    rest(weeks, 7 * 24 * HOUR);
    return [
      name,
      `${restV.toFixed(2)} V`,
      `${Math.min(...middle).toFixed(2)}–${Math.max(...middle).toFixed(2)} V`,
      (Math.max(...densities) - Math.min(...densities)).toFixed(3),
      `${loaded.toFixed(1)} V`,
      `${run.trace.at(600, 'volts').toFixed(2)} V`,
      `${run.volts().toFixed(2)} V, ${run.cells.currentA.toFixed(2)} A`,
      `${Math.min(...temps).toFixed(0)}–${Math.max(...temps).toFixed(0)} °C`,
      silent.length === 0 ? 'all' : silent.length === 6 ? 'none' : `all but ${silent.join(', ')}`,
      `${((fresh - postVolts(weeks)) * 1000).toFixed(0)} mV`,
    ];
  });
  return table(
    [
      'flooded 70 Ah, 80 % charged',
      'rested',
      'inner dip readings',
      'density spread',
      '3 × Ah, 15 s',
      'on charge, 10 min',
      '8 h',
      'cells, 8 h',
      'cells bubbling',
      'lost in a week',
    ],
    rows,
  );
}
