/**
 * The fault table of a bay: each fault × what the bay is doing × what protects it, at random moments. Prints and keeps how long current still flowed and how
 * soon hands were called; ends with an error where a single case is not as the table of the sheet says.
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import { chanceFrom } from '@cork-ember/core/chance/chance.ts';
import { ChargeEngine, type EngineState } from '@cork-ember/core/charge/engine.ts';
import { planFor } from '@cork-ember/core/charge/library.ts';
import type { ProfileId } from '@cork-ember/core/charge/profile.ts';
import { DrainEngine, type DrainState } from '@cork-ember/core/devices/bay/drainEngine.ts';
import type { SimulatedLoad, SimulatedSupply } from '@cork-ember/core/devices/simulated/instruments.ts';
import { SOUND } from '@cork-ember/core/model/battery.ts';
import { makeBattery } from '@cork-ember/core/model/faults.ts';
import { soundBattery } from '@cork-ember/core/model/parameters.ts';
import { AGM_80, subjectOf } from '@cork-ember/core/test/modelBench.ts';
import { VirtualBench } from '@cork-ember/core/test/virtualBench.ts';

const CASES = Number(process.env['CASES'] ?? 10_000);
const RESULTS = 'docs/devices/faults.md';
/** A fault comes at some moment of this long, s. */
const WITHIN_S = 60;
const WATCHED_S = 75;
/** Pauses of a pulse train are shorter, and so are questions whether a figure that stands still still lives, s. */
const PAUSE_S = 8;
/** Afterwards all is well again for so long, s: nothing may go on by itself. */
const AFTER_S = 60;

interface Doing {
  readonly name: string;
  /** How it is charged; without one a load draws it down. */
  readonly plan?: ProfileId;
  readonly charge: number;
  /** Until it is at it, s. */
  readonly firstS: number;
}

const DOINGS: readonly Doing[] = [
  { name: 'holding a current', plan: 'tenth-timed', charge: 0.5, firstS: 5 },
  { name: 'holding a voltage', plan: 'tenth-timed', charge: 0.995, firstS: 240 },
  { name: 'waking', plan: 'supply-wake', charge: 0.1, firstS: 5 },
  { name: 'pulsing', plan: 'pulse', charge: 0.5, firstS: 5 },
  { name: 'drawing it down', charge: 0.9, firstS: 5 },
];

interface Protection {
  readonly name: string;
  readonly hasWatchdog: boolean;
  readonly hasCutOff: boolean;
}

const PROTECTIONS: readonly Protection[] = [
  { name: 'watchdog', hasWatchdog: true, hasCutOff: false },
  { name: 'cut-off', hasWatchdog: false, hasCutOff: true },
  { name: 'neither', hasWatchdog: false, hasCutOff: false },
];

type Bench = VirtualBench<EngineState> | VirtualBench<DrainState>;

interface Tried {
  readonly name: string;
  readonly happens: (bench: Bench, source: SimulatedSupply | SimulatedLoad) => void;
  /** What it cannot happen to. */
  readonly not?: (doing: Doing) => boolean;
  /** Current is gone within, s: by protection, or never where nothing is left that could. */
  readonly offS: (by: Protection) => number | 'never';
  /** Hands are called within, s; nobody is left to call where the supervisor itself is gone. */
  readonly calledS: number | 'never';
}

const DRAIN = { amps: 8, endV: 10.5, mostS: 40 * 3600, cells: 6 };

const TWO = 2;
/** A watchdog's two seconds begin with the last word it heard, and what is seen is seen in steps of 50 ms. */
const BY_ITSELF_S = 2.1;
const both = ({ hasWatchdog, hasCutOff }: Protection): boolean => hasWatchdog || hasCutOff;

const FAULTS: readonly Tried[] = [
  {
    name: 'the supply or load falls silent',
    happens: (_bench, source) => source.fail('silent'),
    offS: (by) => (both(by) ? BY_ITSELF_S : 'never'),
    calledS: TWO,
  },
  {
    name: 'it answers garbage',
    happens: (_bench, source) => source.fail('garbage'),
    offS: () => TWO,
    calledS: TWO,
  },
  {
    name: 'it answers too late',
    happens: (_bench, source) => source.fail('slow'),
    offS: () => TWO,
    calledS: TWO,
  },
  {
    name: 'its figures stand still',
    happens: (_bench, source) => source.fail('frozen'),
    offS: () => WITHIN_S + TWO,
    calledS: WITHIN_S + TWO,
  },
  {
    name: 'it reads low and gives more',
    not: ({ plan }) => plan === undefined,
    happens: (_bench, source) => source.fail('reads-low'),
    offS: () => TWO,
    calledS: TWO,
  },
  {
    name: 'it will not switch off when told',
    happens: (bench, source) => {
      source.fail('stuck-on');
      void bench.supervisor.stop('Stopped by hand.');
    },
    offS: ({ hasCutOff }) => (hasCutOff ? TWO : 'never'),
    calledS: TWO,
  },
  {
    name: 'somebody presses stop',
    happens: (bench) => void bench.supervisor.stop('Stopped by hand.'),
    offS: () => TWO,
    calledS: 'never',
  },
  {
    name: 'the stop button is pressed',
    happens: ({ stop }) => stop.fail('pressed'),
    offS: () => TWO,
    calledS: TWO,
  },
  {
    name: 'a lead falls off',
    happens: ({ circuit }) => circuit.clip('off'),
    offS: () => TWO,
    calledS: TWO,
  },
  {
    name: 'the clips touch',
    happens: ({ circuit }) => circuit.clip('touching'),
    offS: () => TWO,
    calledS: TWO,
  },
  {
    name: 'the meter falls silent',
    happens: ({ meter }) => meter.fail('silent'),
    offS: () => TWO,
    calledS: TWO,
  },
  {
    name: 'the shop’s clock is set',
    happens: (bench) => (bench.movedMs = -7_200_000),
    offS: () => TWO,
    calledS: TWO,
  },
  {
    name: 'nothing can be kept',
    happens: (bench) => (bench.unkept = 'the disk is full'),
    offS: () => TWO,
    calledS: TWO,
  },
  {
    name: 'the supervisor dies',
    happens: (bench) => bench.die(),
    offS: (by) => (both(by) ? BY_ITSELF_S : 'never'),
    calledS: 'never',
  },
];

interface Outcome {
  readonly offS: number | undefined;
  readonly calledS: number | undefined;
  readonly says: string;
  readonly isOnAgain: boolean;
}

async function outcome(doing: Doing, by: Protection, fault: Tried, atS: number): Promise<Outcome> {
  const { plan, charge } = doing;
  const subject = subjectOf(AGM_80);
  const condition = { ...SOUND, charge };
  const cells = makeBattery({ parameters: soundBattery(AGM_80), condition, faults: [], tempC: 25 });
  const bench: Bench =
    plan === undefined
      ? new VirtualBench({ cells, engine: new DrainEngine(DRAIN), leastV: DRAIN.endV, ...by })
      : new VirtualBench({ cells, engine: new ChargeEngine(planFor(plan, subject), subject), ...by });
  const source = plan === undefined ? bench.load : bench.supply;
  await bench.begin();
  await bench.runFor(doing.firstS + atS);
  if (bench.supervisor.phase.kind !== 'running')
    throw new Error(`${doing.name}: ${JSON.stringify(bench.supervisor.phase)}`);
  const sinceS = bench.time.now() / 1000;
  fault.happens(bench, source);
  const offS = await bench.secondsUntilOff(WATCHED_S, plan === 'pulse' ? PAUSE_S : 0);
  await bench.runFor(3);
  const [alarm] = bench.alarms;
  source.fail(undefined);
  bench.stop.fail(undefined);
  bench.meter.fail(undefined);
  bench.circuit.clip('on');
  bench.unkept = undefined;
  let isOnAgain = false;
  for (let second = 0; second < AFTER_S && offS !== undefined; second++) {
    await bench.runFor(1);
    isOnAgain ||= Math.abs(bench.circuit.batteryA) > 1e-6;
  }
  return { offS, calledS: alarm && alarm.atS - sinceS, says: alarm?.says ?? '', isOnAgain };
}

const isAsTold = (is: number | undefined, told: number | 'never'): boolean =>
  told === 'never' ? true : is !== undefined && is <= told;

const each = Math.ceil(CASES / (DOINGS.length * PROTECTIONS.length * FAULTS.length));
const chance = chanceFrom('fault table');
const rows: string[] = [];
let [cases, wrong] = [0, 0];
for (const fault of FAULTS)
  for (const by of PROTECTIONS) {
    let [slowestS, calledS, says, stayed] = [0, 0, '', 0];
    for (const doing of DOINGS.filter((is) => !fault.not?.(is)))
      for (let one = 0; one < each; one++) {
        const come = await outcome(doing, by, fault, WITHIN_S * chance());
        cases += 1;
        const isRight =
          isAsTold(come.offS, fault.offS(by)) && isAsTold(come.calledS, fault.calledS) && !come.isOnAgain;
        if (!isRight) {
          wrong += 1;
          console.error(`${fault.name}, ${doing.name}, ${by.name}: ${JSON.stringify(come)}`);
        }
        if (come.offS === undefined) stayed += 1;
        else slowestS = Math.max(slowestS, come.offS);
        calledS = Math.max(calledS, come.calledS ?? 0);
        says ||= come.says;
      }
    const off = stayed === 0 ? `${slowestS.toFixed(2)} s` : 'not by itself';
    const called = fault.calledS === 'never' ? '–' : `${calledS.toFixed(2)} s`;
    rows.push(`| ${fault.name} | ${by.name} | ${off} | ${called} | ${says} |`);
    console.log(rows.at(-1));
  }
mkdirSync('docs/devices', { recursive: true });
writeFileSync(
  RESULTS,
  [
    '# The fault table of a bay',
    '',
    `Written by \`npm run device-figures\`: ${cases} cases on devices that are not there, each fault at random moments while the bay is ${DOINGS.map(({ name }) => name).join(', ')}; ${wrong} of them otherwise than told in the sheet above the script. Longest of all cases. A bay with neither watchdog nor cut-off is attended only: where nothing is left that could switch it off, hands are called.`,
    '',
    '| fault | protected by | current gone within | hands called within | what is said |',
    '| --- | --- | --- | --- | --- |',
    ...rows,
    '',
  ].join('\n'),
);
if (wrong > 0) process.exit(1);
