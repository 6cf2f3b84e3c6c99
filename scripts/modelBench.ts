/**
 * Speed of the cell model: bundled by the benchmark and run as it ships. The same file is the worker of the
 * run over a thousand batteries.
 */
import { fileURLToPath } from 'node:url';
import { isMainThread, parentPort, Worker, workerData } from 'node:worker_threads';
import {
  AGM_80,
  chargeOn,
  EVERY_FAULT,
  FLOODED_70,
  partCharged,
  sixDifferent,
  steadyCharge,
} from '@cork-ember/core/test/modelBench.ts';
import { soundBattery, type BatteryParameters } from '@cork-ember/core/model/parameters.ts';
import type { Fault } from '@cork-ember/core/model/faults.ts';
import type { ModelRun } from '@cork-ember/core/charge/modelRun.ts';

const stopwatch = globalThis.performance;
const HOUR = 3600;
const WARM_UP = 30;
const RUNS = 40;
const ROUNDS = 5;

function charge(parameters: BatteryParameters, faults: readonly Fault[], hours: number): ModelRun {
  const { rating } = parameters;
  // A dead short at C/10 is switched off for heat; at C/20 it is charged to the end like the others.
  const isShorted = faults.some((fault) => fault.kind === 'short' && fault.ohms < 0.1);
  const amps = rating.capacityAh / (isShorted ? 20 : 10);
  const run = chargeOn(rating, partCharged(parameters, faults), steadyCharge(rating, amps, hours));
  run.runUntil(hours * HOUR);
  return run;
}

function medianMs(work: () => void): number {
  for (let run = 0; run < WARM_UP; run++) work();
  const times = Array.from({ length: RUNS }, () => {
    const begun = stopwatch.now();
    work();
    return stopwatch.now() - begun;
  }).sort((a, b) => a - b);
  return times[RUNS / 2] ?? Number.NaN;
}

/** A machine shared with others is only ever slowed by them: the quickest round says most of the code. */
export interface Rounds {
  readonly best: number;
  readonly median: number;
}

export interface ModelFigures {
  readonly sixDifferentMs: number;
  readonly identicalMs: number;
  readonly worstFault: readonly [name: string, ms: number];
  readonly kilobytesPerRun: number;
  readonly thousandSix: Rounds;
  readonly thousandFive: Rounds;
  /** A fixed loop of divisions and exponentials, ms: how fast this machine was meanwhile. */
  readonly yardstickMs: number;
}

/** Set in the environment of the process that is to print its figures. */
export const PRINTS = 'CORK_EMBER_MODEL_FIGURES';

/** Bytes a run leaves on the heap before anything is collected. */
function kilobytesPerRun(parameters: BatteryParameters): number {
  const { gc } = globalThis;
  const runs = 20;
  let most = 0;
  for (let round = 0; round < 3; round++) {
    gc?.();
    const before = process.memoryUsage().heapUsed;
    for (let run = 0; run < runs; run++) charge(parameters, [], 48);
    most = Math.max(most, (process.memoryUsage().heapUsed - before) / runs);
  }
  return most / 1024;
}

function yardstick(): void {
  let sum = 0;
  for (let turn = 0; turn < 100_000; turn++) sum += Math.exp(-(turn % 100) / 50) / (1 + (turn % 7));
  if (!(sum > 0)) throw new Error('The yardstick was not measured.');
}

async function modelFigures(): Promise<ModelFigures> {
  const six = sixDifferent(AGM_80);
  const alike = soundBattery(AGM_80);
  const faults = EVERY_FAULT.map(([name, list]): readonly [string, number] => [
    name,
    medianMs(() => charge(sixDifferent(FLOODED_70), list, 48)),
  ]);
  return {
    sixDifferentMs: medianMs(() => charge(six, [], 48)),
    identicalMs: medianMs(() => charge(alike, [], 48)),
    worstFault: faults.reduce((worst, each) => (each[1] > worst[1] ? each : worst)),
    kilobytesPerRun: kilobytesPerRun(six),
    thousandSix: await thousandS(true),
    thousandFive: await thousandS(false),
    yardstickMs: medianMs(yardstick),
  };
}

/** Five cells alike and one a little weaker. */
function fiveAndOne(): BatteryParameters {
  const parameters = soundBattery(AGM_80);
  const cells = parameters.cells.map((cell, index) =>
    index === 2 ? { ...cell, convertibleAh: cell.convertibleAh * 0.9 } : cell,
  );
  return { ...parameters, cells };
}

interface Share {
  readonly count: number;
  readonly isSixDifferent: boolean;
}

function manyBatteries({ count, isSixDifferent }: Share): void {
  const parameters = isSixDifferent ? sixDifferent(AGM_80) : fiveAndOne();
  for (let battery = 0; battery < count; battery++) charge(parameters, [], 24);
}

/** A thousand batteries over 24 hours on two workers, both warm, in s: the quickest of five rounds and their median. */
async function thousandS(isSixDifferent: boolean): Promise<Rounds> {
  const workers = [0, 1].map(() => new Worker(fileURLToPath(import.meta.url), { workerData: 'batteries' }));
  const ask = (count: number): Promise<unknown> =>
    Promise.all(
      workers.map(
        (worker) =>
          new Promise((resolve) => {
            worker.once('message', resolve);
            worker.postMessage({ count, isSixDifferent } satisfies Share);
          }),
      ),
    );
  await ask(60);
  const times: number[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    const begun = stopwatch.now();
    await ask(500);
    times.push((stopwatch.now() - begun) / 1000);
  }
  await Promise.all(workers.map((worker) => worker.terminate()));
  times.sort((a, b) => a - b);
  return { best: times[0] ?? Number.NaN, median: times[(ROUNDS - 1) / 2] ?? Number.NaN };
}

if (isMainThread && process.env[PRINTS] !== undefined)
  process.stdout.write(JSON.stringify(await modelFigures()));

if (!isMainThread && workerData === 'batteries')
  parentPort?.on('message', (share: Share) => {
    manyBatteries(share);
    parentPort?.postMessage('done');
  });
