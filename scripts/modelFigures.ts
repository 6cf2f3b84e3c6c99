/** Draws the figures of docs/model.md and writes its tables, from the model as it is: `npm run model-figures`. */
import { percentText } from '@cork-ember/core/units/percent.ts';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { donorWake, leadsOhm } from '@cork-ember/core/charge/donor.ts';
import { planFor } from '@cork-ember/core/charge/library.ts';
import type { ModelRun } from '@cork-ember/core/charge/modelRun.ts';
import type { TraceColumn } from '@cork-ember/core/charge/trace.ts';
import { SOUND, type CellCondition } from '@cork-ember/core/model/battery.ts';
import { draw, postVolts, rest } from '@cork-ember/core/model/discharge.ts';
import { makeBattery, type Fault } from '@cork-ember/core/model/faults.ts';
import { soundBattery, type Rating } from '@cork-ember/core/model/parameters.ts';
import { get } from '@cork-ember/core/model/state.ts';
import { Stepper } from '@cork-ember/core/model/stepper.ts';
import { AGM_80, chargeOn, FLOODED_70, steadyCharge, subjectOf } from '@cork-ember/core/test/modelBench.ts';
import { charged, classTable, densityTable, faultTable, gasTable, standing, table } from './modelTables.ts';
import { svgChart, type ChartSpec, type Line } from './svgChart.ts';

const HOUR = 3600;
const FOLDER = join(import.meta.dirname, '../docs/model');
const SMALL_AGM: Rating = {
  construction: 'agm',
  duty: 'starter',
  cells: 6,
  capacityAh: 12,
  hourRate: 10,
  crankingA: 200,
};

/** Labels as common sizes print them: capacity at 20 h, cranking (EN), reserve capacity in minutes. */
const LABELS: readonly (readonly [name: string, rating: Rating, reserveMin: number, use: string])[] = [
  ['AGM 80 Ah, 800 A', AGM_80, 140, 'fitted'],
  ['Flooded 70 Ah, 640 A', FLOODED_70, 115, 'fitted'],
  ['AGM 60 Ah, 680 A', { ...AGM_80, capacityAh: 60, crankingA: 680 }, 100, 'predicted'],
  ['AGM 95 Ah, 850 A', { ...AGM_80, capacityAh: 95, crankingA: 850 }, 170, 'predicted'],
  ['Flooded 60 Ah, 540 A', { ...FLOODED_70, capacityAh: 60, crankingA: 540 }, 98, 'predicted'],
  ['Flooded 100 Ah, 830 A', { ...FLOODED_70, capacityAh: 100, crankingA: 830 }, 180, 'predicted'],
];

function save(name: string, spec: ChartSpec): void {
  writeFileSync(join(FOLDER, `${name}.svg`), svgChart(spec));
}

function lineOfRun(name: string, run: ModelRun, column: TraceColumn, scale = 1): Line {
  const points = Array.from({ length: run.trace.length }, (_, row): [number, number] => [
    run.trace.seconds(row) / HOUR,
    run.trace.value(row, column) * scale,
  ]);
  return { name, points };
}

/** Current that lasts so many hours, A. */
function currentFor(rating: Rating, hours: number, endV: number): number {
  let amps = (soundBattery(rating).cells[0]?.ratedAh ?? 0) / hours ** 0.87 / 20 ** 0.13;
  for (let tries = 0; tries < 10; tries++)
    amps *= (draw(standing(rating), amps, endV, 300 * HOUR).seconds / HOUR / hours) ** 0.8;
  return amps;
}

const RATES = [
  [20, 10.5],
  [10, 10.5],
  [5, 10.5],
  [1, 9.6],
  [0.25, 9],
] as const;

function dischargeTable(): string {
  const rows = ([AGM_80, SMALL_AGM, FLOODED_70] as const).map((rating) => {
    const amps = RATES.map(([hours, endV]) => currentFor(rating, hours, endV));
    const k = (i: number): string =>
      (Math.log((RATES[i]?.[0] ?? 1) / 10) / Math.log((amps[1] ?? 1) / (amps[i] ?? 1))).toFixed(3);
    return [
      `${rating.construction} ${rating.capacityAh} Ah (${rating.hourRate} h)`,
      ...amps.map((each) => `${each.toFixed(2)} A`),
      [0, 2, 3, 4].map(k).join(' · '),
    ];
  });
  return table(['battery', '20 h', '10 h', '5 h', '1 h', '¼ h', 'k against 10 h: 20 · 5 · 1 · ¼'], rows);
}

function labelTable(): string {
  return table(
    ['label', 'reserve, label', 'model', 'off', 'cranking (EN, 10 s to 7.5 V), label', 'model', 'off', ''],
    LABELS.map(([name, rating, reserveMin, use]) => {
      const minutes = draw(standing(rating), 25, 10.5, 10 * HOUR).seconds / 60;
      const rated = rating.crankingA ?? 0;
      let low = rated / 2;
      let high = rated * 2;
      for (let tries = 0; tries < 20; tries++) {
        const amps = (low + high) / 2;
        if (draw(standing(rating, {}, [], -18), amps, 0, 10).endV > 7.5) low = amps;
        else high = amps;
      }
      const off = (value: number, label: number): string => percentText(value / label - 1);
      return [
        name,
        `${reserveMin} min`,
        `${minutes.toFixed(0)} min`,
        off(minutes, reserveMin),
        `${rated} A`,
        `${low.toFixed(0)} A`,
        off(low, rated),
        use,
      ];
    }),
  );
}

function temperatureTable(): string {
  const temps = [-18, 0, 10, 25, 40];
  return table(
    ['battery', ...temps.map((tempC) => `${tempC} °C`)],
    [AGM_80, FLOODED_70].flatMap((rating) => {
      const capacity = temps.map(
        (tempC) => draw(standing(rating, {}, [], tempC), rating.capacityAh / 20, 10.5, 60 * HOUR).ah,
      );
      const loaded = temps.map(
        (tempC) => draw(standing(rating, {}, [], tempC), (rating.crankingA ?? 0) / 2, 0, 15).endV,
      );
      return [
        [
          `${rating.construction}: C/20 capacity`,
          ...capacity.map((ah) => percentText(ah / rating.capacityAh)),
        ],
        [`${rating.construction}: ½ CCA, 15 s`, ...loaded.map((volts) => `${volts.toFixed(2)} V`)],
      ];
    }),
  );
}

function restTable(): string {
  const published = [
    [1, 12.65],
    [0.75, 12.45],
    [0.5, 12.24],
    [0.25, 12.06],
    [0, 11.89],
  ] as const;
  const volts = published.map(([charge]) => {
    const cells = standing({ ...FLOODED_70, acidDensity: 1.265 }, { charge });
    rest(cells, 60);
    return postVolts(cells);
  });
  save('rest', {
    title: 'Rested voltage by charge, flooded, acid 1.265',
    x: 'charge, %',
    y: 'V',
    lines: [
      { name: 'model', points: published.map(([charge], i) => [charge * 100, volts[i] ?? 0]) },
      { name: 'published (BCI)', points: published.map(([charge, v]) => [charge * 100, v]), isDots: true },
    ],
  });
  return table(
    ['charge', 'published', 'model'],
    published.map(([charge, v], i) => [
      `${charge * 100} %`,
      `${v.toFixed(2)} V`,
      `${volts[i]?.toFixed(2)} V`,
    ]),
  );
}

function dischargeCurves(): void {
  const lines = RATES.map(([hours, endV]): Line => {
    const amps = currentFor(AGM_80, hours, endV);
    const cells = standing(AGM_80);
    const points: [number, number][] = [];
    const slice = (hours * HOUR) / 60;
    for (let atS = 0; ; atS += slice) {
      const drawn = draw(cells, amps, endV, slice);
      points.push([((atS + drawn.seconds) * amps) / HOUR, drawn.endV]);
      if (drawn.stoppedAtV) break;
    }
    return { name: `${hours} h, ${amps.toFixed(1)} A`, points };
  });
  save('discharge', { title: 'AGM 80 Ah, discharged at five rates', x: 'drawn, Ah', y: 'V', lines });
}

function chargeCurves(): void {
  const sound = charged(
    FLOODED_70,
    standing(FLOODED_70, { charge: 0.2 }),
    steadyCharge(FLOODED_70, 7, 16),
    16,
  );
  const agm = charged(AGM_80, standing(AGM_80, { charge: 0.2 }), steadyCharge(AGM_80, 8, 16), 16);
  save('charge', {
    title: 'C/10 to 14.4 V: voltage',
    x: 'hours',
    y: 'V',
    lines: [lineOfRun('flooded 70 Ah', sound, 'volts'), lineOfRun('AGM 80 Ah', agm, 'volts')],
  });
  save('taper', {
    title: 'C/10 to 14.4 V: current, tapering below C/50',
    x: 'hours',
    y: 'A',
    lines: [lineOfRun('flooded 70 Ah', sound, 'amps'), lineOfRun('AGM 80 Ah', agm, 'amps')],
  });
}

function goingWrong(): void {
  const wake = (condition: Partial<CellCondition>): ModelRun =>
    charged(AGM_80, standing(AGM_80, condition), planFor('supply-wake', subjectOf(AGM_80)), 12);
  save('waking', {
    title: 'Woken with a supply: sulfated against empty, AGM 80 Ah',
    x: 'hours',
    y: 'V',
    lines: [
      lineOfRun('sulfated, film', wake({ charge: 0.02, hardShare: 0.6, film: 1 }), 'volts'),
      lineOfRun('empty, sound', wake({ charge: 0.02 }), 'volts'),
    ],
  });
  const shorted = charged(
    FLOODED_70,
    standing(FLOODED_70, { charge: 0.6 }, [{ kind: 'short', cell: 3, ohms: 0.02 }]),
    planFor('tenth-timed', subjectOf(FLOODED_70)),
    16,
  );
  const sound = charged(
    FLOODED_70,
    standing(FLOODED_70, { charge: 0.6 }),
    planFor('tenth-timed', subjectOf(FLOODED_70)),
    16,
  );
  save('short-volts', {
    title: 'One dead cell: about 2 V less at every stage',
    x: 'hours',
    y: 'V',
    lines: [lineOfRun('sound', sound, 'volts'), lineOfRun('cell 3 shorted', shorted, 'volts')],
  });
  save('short-heat', {
    title: 'One dead cell: the five others are overcharged and heat',
    x: 'hours',
    y: '°C',
    lines: [lineOfRun('sound', sound, 'hottestC'), lineOfRun('cell 3 shorted', shorted, 'hottestC')],
  });
  const runaway = (share: number): Line => {
    const cells = standing(AGM_80, { charge: 0.9 }, share > 0 ? [{ kind: 'dry', share }] : [], 40);
    const stepper = new Stepper(cells);
    stepper.step({ hold: 'current', amps: 8 }, 60);
    const points: [number, number][] = [];
    for (let minute = 0; minute < 30 * 60 && cells.tempOf(0) < 85; minute++) {
      stepper.step({ hold: 'voltage', voltsAt: () => 14.4 }, 60);
      if (minute % 10 === 0) points.push([minute / 60, cells.tempOf(0)]);
    }
    return { name: share > 0 ? `${share * 100} % water gone` : 'wet', points };
  };
  save('runaway', {
    title: 'AGM held at 14.4 V in 40 °C: dry ones run away',
    x: 'hours',
    y: '°C',
    lines: [runaway(0), runaway(0.15), runaway(0.25)],
  });
}

function comingBack(): string {
  const hardAt = (pulseGain: number, isPulsed: boolean): Line => {
    const parameters = soundBattery(AGM_80);
    const cell = { ...(parameters.cells[0] as (typeof parameters.cells)[number]), pulseGain };
    const cells = makeBattery({
      parameters: { ...parameters, cells: parameters.cells.map(() => cell) },
      condition: { ...SOUND, charge: 0.1, hardShare: 0.9, film: 1 },
    });
    const plan = planFor('pulse', subjectOf(AGM_80));
    const steady = { ...plan, stages: plan.stages.map(({ pulse: _pulse, ...stage }) => stage) };
    const run = chargeOn(AGM_80, cells, isPulsed ? plan : steady);
    const points: [number, number][] = [];
    for (let hour = 0; hour <= 168; hour += 6) {
      run.runUntil(hour * HOUR);
      points.push([hour / 24, (get(cells.state.hard, 0) / 80) * 100]);
    }
    return { name: isPulsed ? `pulses, gain ${pulseGain}` : 'steady', points };
  };
  save('soak', {
    title: 'Hard sulfate over a week at C/20 and 14.4 V',
    x: 'days',
    y: '% of capacity',
    lines: [hardAt(1, false), hardAt(1, true), hardAt(1.5, true), hardAt(2, true)],
  });
  /** Warmth beside the donor, and what the meter says ten minutes after the leads are off. */
  const wake = (
    faults: readonly Fault[],
    minutes: number,
  ): { heat: Line['points']; firstA: number; restedV: number } => {
    const parameters = { ...soundBattery(AGM_80), leadsOhm: leadsOhm(2, 10) };
    const condition = { ...SOUND, charge: -0.145, hardShare: 0.3 };
    const flat = makeBattery({ parameters, condition, faults });
    rest(flat, 60);
    const donor = standing(AGM_80);
    rest(donor, 60);
    const looks = minutes === 0 ? [] : donorWake(donor, flat, 8, minutes * 60);
    rest(flat, 600);
    return {
      heat: looks.map((look) => [look.atS / 60, look.flatC]),
      firstA: looks[0]?.intoFlatA ?? 0,
      restedV: postVolts(flat),
    };
  };
  // Left flat for months, two of its cells were driven backwards by the rest: it stands at a few volts.
  const deep = [2, 5].map((cell): Fault => ({ kind: 'reversed', cell }));
  const shorted = [1, 2, 3].map((cell): Fault => ({ kind: 'short', cell, ohms: 0.004 }));
  const moments = [0, 5, 15, 30, 60, 120];
  const restedLine = (name: string, faults: readonly Fault[]): Line => ({
    name,
    points: moments.map((minutes) => [minutes, wake(faults, minutes).restedV]),
  });
  save('donor-volts', {
    title: 'Read ten minutes after the donor’s leads came off',
    x: 'minutes beside the donor',
    y: 'V',
    lines: [restedLine('deep', deep), restedLine('three shorted', shorted)],
  });
  const deepHour = wake(deep, 60);
  const shortedHour = wake(shorted, 60);
  save('donor-heat', {
    title: 'Beside a donor the shorted one heats instead',
    x: 'minutes beside the donor',
    y: '°C',
    lines: [
      { name: 'deep', points: deepHour.heat },
      { name: 'three shorted', points: shortedHour.heat },
    ],
  });
  const row = (name: string, faults: readonly Fault[], hour: typeof deepHour): string[] => [
    name,
    `${wake(faults, 0).restedV.toFixed(1)} V`,
    `${hour.firstA.toFixed(0)} A`,
    `${hour.restedV.toFixed(1)} V`,
    `${hour.heat.at(-1)?.[1].toFixed(0)} °C`,
  ];
  return table(
    ['an hour beside a donor', 'before', 'first current', 'ten minutes after', 'warmth'],
    [
      row('deep AGM 80 Ah, two cells reversed', deep, deepHour),
      row('deep AGM 80 Ah, three cells shorted', shorted, shortedHour),
    ],
  );
}

dischargeCurves();
chargeCurves();
goingWrong();
const results = [
  '# What the model gives',
  'Written by `npm run model-figures`; the text around it is [model.md](../model.md).',
  '## Discharge at five rates, and Peukert’s exponent',
  dischargeTable(),
  '## Each class at its published rates',
  'Current over rated capacity at 25 °C to the end voltage of the class, and how far it lies from the middle of what makers publish. A class is fitted on one battery without a cranking rating; its other sizes, and those with a rating, are predicted.',
  classTable(),
  '## Reserve capacity and cranking of six labels',
  labelTable(),
  '## Temperature',
  temperatureTable(),
  '## Rested voltage, flooded with 1.265 acid',
  restTable(),
  '## Rested voltage by acid, full',
  densityTable(),
  '## Float and boost',
  gasTable(),
  '## What each fault looks like',
  faultTable(),
  '## Donor',
  comingBack(),
];
writeFileSync(join(FOLDER, 'results.md'), `${results.join('\n\n')}\n`);
