/** Charges of the run sheets on batteries of the model, looked at by hand as in a shop: what fires, and when. */
import { CATALOGUE } from '../demo/catalogue.ts';
import type { BatteryType } from '../battery/types.ts';
import { ChargeEngine } from '../charge/engine.ts';
import { heldPlan } from '../charge/held.ts';
import { ModelRun } from '../charge/modelRun.ts';
import type { ChargeReading } from '../charge/proofOfFull.ts';
import { firstStop, timedLook, watched, type Finding, type WatchState } from '../charge/watch.ts';
import { read } from '../observation/modelView.ts';
import { SOUND, type CellCondition } from '../model/battery.ts';
import { postVolts, rest } from '../model/discharge.ts';
import type { CellString } from '../model/cellString.ts';
import { makeBattery, type Fault } from '../model/faults.ts';
import { ratingOf } from '../model/fromType.ts';
import { subjectOfType } from '../charge/subject.ts';
import { soundBattery } from '../model/parameters.ts';
import { CASE_C, get } from '../model/state.ts';
import { isDone, limitsOf, watchOf } from '../runsheet/verdict/chargeLimits.ts';
import { contextOf } from '../runsheet/state/context.ts';
import { procedureById } from '../runsheet/procedures/procedures.ts';
import type { ChargeEvidence, ChargeStep, Step, StepContext } from '../runsheet/definition/step.ts';
import { TestJob } from './testJob.ts';
import { trialChance } from './trialChance.ts';

/** A battery to charge: what it is, how it stands, and where. */
export interface Subject {
  readonly typeId: string;
  readonly condition: Partial<CellCondition>;
  readonly faults?: readonly Fault[];
  /** How this piece differs from its label. */
  readonly capacityFactor?: number;
  readonly crankingFactor?: number;
  readonly batteryC: number;
  readonly roomC: number;
}

/** A first charge, or a charge of a recovery by its step. */
export type ChargeId =
  | 'charge'
  | 'slow'
  | 'soak'
  | 'current'
  | 'pulse'
  | 'supply-charge'
  | 'forced-charge'
  | 'donor-hour'
  | 'bite-one'
  | 'low'
  | 'over-voltage';

export interface TrialResult {
  readonly stopped: Finding | undefined;
  /** Hours on charge at its end. */
  readonly hours: number;
  readonly end: 'stopped' | 'hot' | 'done' | 'time';
  readonly looks: readonly ChargeReading[];
  readonly restedV: number;
}

const HOUR_MS = 3_600_000;
const SETTLED_S = 6 * 3600;

export function typeOf(id: string): BatteryType {
  const type = CATALOGUE.find((candidate) => candidate.id === id);
  if (!type) throw new Error(`no type ${id}`);
  return type;
}

function definitionFor(id: ChargeId, type: BatteryType): { procedure: string; definition: ChargeStep } {
  const flooded = type.construction === 'flooded';
  const recovery = flooded ? 'recover-flooded' : 'recover-agm';
  const procedure = id === 'charge' ? (flooded ? 'flooded-by-hand' : 'agm-from-pack') : recovery;
  const { steps, routes = [] } = procedureById(procedure);
  const found = [...steps, ...routes.flatMap((route) => route.steps)].find((step: Step) => step.id === id);
  if (found?.kind !== 'charge') throw new Error(`no charge ${id}`);
  return { procedure, definition: found };
}

function contextFor(procedure: string, type: BatteryType, restedV: number): StepContext {
  const job = new TestJob(type.id, { activatedAgm: 'chargeFirst' }, undefined, procedure);
  if (procedure.startsWith('recover')) job.triage(Number(restedV.toFixed(2)));
  return contextOf(job.job.state, 1);
}

/** A battery that has stood for hours, and is brought in with its own warmth. */
export function standing({
  typeId,
  condition,
  faults = [],
  capacityFactor = 1,
  crankingFactor = 1,
  batteryC,
  roomC,
}: Subject): CellString {
  const rating = ratingOf(typeOf(typeId));
  const parameters = soundBattery({
    ...rating,
    capacityAh: rating.capacityAh * capacityFactor,
    ...(rating.crankingA === undefined ? {} : { crankingA: rating.crankingA * crankingFactor }),
  });
  const cells = makeBattery({ parameters, condition: { ...SOUND, ...condition }, faults, tempC: batteryC });
  cells.ambientC = roomC;
  rest(cells, SETTLED_S);
  cells.state.shared[CASE_C] = batteryC;
  rest(cells, 60);
  return cells;
}

/**
 * Charges a battery as the run sheet sets it, with a look at every step of the clock.
 * @param everyMin minutes between looks
 */
export function trial(id: ChargeId, subject: Subject, seed: string, everyMin = 60): TrialResult {
  const { typeId, batteryC, roomC } = subject;
  const type = typeOf(typeId);
  const { procedure, definition } = definitionFor(id, type);
  const cells = standing(subject);
  const restedV = read(postVolts(cells), 'meterV', `${seed} rested`);
  const context = contextFor(procedure, type, Math.max(0, restedV));
  const treatment = definition.treatment?.(context);
  const setting = treatment ? undefined : context.chargeSetting();
  // A wake is raised, look by look, to what it is to take in the end.
  const wakesTo = treatment?.end.on === 'accepts' ? treatment.end.atA : undefined;
  const setA = wakesTo ?? treatment?.setA ?? setting?.current.value ?? 0;
  const dueMin = treatment?.dueMin ?? setting?.totalMin ?? 0;
  const limits = limitsOf(context, definition, dueMin);
  const watch = watchOf(context, definition, setA, dueMin, batteryC);
  const plan = heldPlan(setA, limits.ceilingV, limits.mostMin * 60 + 3600, 'wake', limits.isCompensated);
  const run = new ModelRun(cells, new ChargeEngine(plan, subjectOfType(type)), { ambientC: roomC });
  const stretches = [{ from: 0 }];
  const looks: ChargeReading[] = [];
  let state: WatchState | undefined;
  for (let minute = everyMin; minute <= limits.mostMin; minute += everyMin) {
    run.runUntil(minute * 60);
    const at = (minute / 60) * HOUR_MS;
    const here = `${seed} ${minute}`;
    const look: ChargeReading = {
      at,
      voltageV: read(run.volts(), 'meterV', `${here} V`),
      currentA: Math.max(0, read(cells.currentA, 'shuntA', `${here} A`)),
      tempC: read(get(cells.state.shared, CASE_C), 'thermometerC', `${here} C`),
    };
    const before = state;
    state = watched(watch, before, timedLook(look, looks.at(-1), stretches));
    looks.push(look);
    const stopped = firstStop(watch, state, before);
    const result = { stopped, hours: minute / 60, looks, restedV };
    if (stopped) return { ...result, end: 'stopped' };
    if (look.tempC > limits.hotC) return { ...result, end: 'hot' };
    const evidence: ChargeEvidence = {
      stepKey: id,
      looks,
      stretches,
      missingAh: watch.missingAh,
      limits,
      setA,
      fullSignal: false,
      isOver: false,
    };
    if (isDone(context, evidence) || (limits.end.on === 'clock' && minute >= dueMin))
      return { ...result, end: 'done' };
  }
  return { stopped: undefined, hours: limits.mostMin / 60, end: 'time', looks, restedV };
}

export const TYPES = [
  'LW-A6/4',
  'LW-A6/12',
  'LW-A12/4',
  'LW-A12/9',
  'LW-A12/12',
  'TQ-A12/14',
  'TQ-A12/20',
  'TQ-A12/30',
  'BK-A12/55',
  'BK-S12/75',
  'TQ-F6/11',
  'TQ-F12/14',
  'BK-F12/70',
] as const;
export const ROOMS_C = [5, 21, 32] as const;

/** A battery by its number, and the charges it is put on: the same whenever it is asked. */
export function randomBattery(
  kind: 'sound' | 'sulfated',
  index: number,
): { readonly subject: Subject; readonly charges: readonly ChargeId[] } {
  const between = trialChance(index * 7919 + (kind === 'sound' ? 1 : 2));
  const typeId = TYPES[Math.floor(between(0, TYPES.length))] ?? TYPES[0];
  const roomC = ROOMS_C[index % ROOMS_C.length] ?? 21;
  const isFlooded = typeId.includes('-F');
  const ofKind: ChargeId = isFlooded ? 'current' : 'soak';
  // A factory-activated type has no first charge from a pack.
  const isFilledHere = !typeId.includes('-S');
  const isFirst = kind === 'sound' && isFilledHere && index % 2 === 0;
  const condition =
    kind === 'sound'
      ? { charge: isFirst ? between(0.66, 0.94) : between(0.02, 0.9), film: between(0, 0.05) }
      : { charge: between(0.01, 0.4), hardShare: between(0.2, 0.6), film: between(0.2, 0.95) };
  return {
    subject: {
      typeId,
      condition,
      capacityFactor: between(0.93, 1.07),
      crankingFactor: between(0.9, 1.1),
      batteryC: roomC + between(-6, 6),
      roomC,
    },
    charges: isFirst
      ? ['charge']
      : kind === 'sound'
        ? ['slow', ofKind, 'pulse']
        : ['slow', ofKind, 'pulse', 'supply-charge'],
  };
}
