/** Slow charges of batteries of the model, judged look by look against the belief's band: what it says, and when. */
import { bandOf } from '../belief/band.ts';
import { Believer } from '../belief/believer.ts';
import { goingOn, type CourseId, type GoingOn } from '../belief/deviation.ts';
import { courseOf, settingOf } from '../adapters/fromJob.ts';
import { ChargeEngine } from '../charge/engine.ts';
import { heldPlan } from '../charge/held.ts';
import { ModelRun } from '../charge/modelRun.ts';
import { hydrometerAt, read } from '../observation/modelView.ts';
import { postVolts } from '../model/discharge.ts';
import { subjectOfType } from '../charge/subject.ts';
import { CASE_C, get } from '../model/state.ts';
import { ceilingNow, limitsOf } from '../runsheet/verdict/chargeLimits.ts';
import { atHand } from '../runsheet/plan/atHand.ts';
import { contextOf } from '../runsheet/state/context.ts';
import { definitionOf } from '../runsheet/state/sheet.ts';
import { randomBattery, standing, typeOf } from './chargeTrial.ts';
import { TestJob } from './testJob.ts';

/** What was said at one look: by the answer of the moment, and once the belief was at rest. */
export interface Word {
  readonly minute: number;
  readonly atOnce: GoingOn;
  readonly atRest: GoingOn;
}

export interface WordsResult {
  readonly typeId: string;
  readonly roomC: number;
  readonly words: readonly Word[];
  readonly isStopped: boolean;
}

/** Candidates of a band, as on the run sheet. */
const BAND_COUNT = 60;
const EVERY_MIN = 60;

/** What is said of it at the counter: the truth. */
const TOLD = {
  sound: { complaint: 'lights-left', flatMonths: 0.2 },
  sulfated: { complaint: 'parked', flatMonths: 6 },
} as const;

/**
 * What the band says on the slow charge of a random battery.
 * @param index the same number gives the same battery and the same readings
 */
export function wordsTrial(kind: 'sound' | 'sulfated', index: number): WordsResult {
  const { subject } = randomBattery(kind, index);
  const { typeId, roomC } = subject;
  const type = typeOf(typeId);
  const seed = `${kind} ${index}`;
  const cells = standing(subject);
  const caseC = (at: string): number =>
    Number(read(get(cells.state.shared, CASE_C), 'thermometerC', `${seed} ${at} C`).toFixed(1));
  const isFlooded = typeId.includes('-F');
  const job = new TestJob(typeId, {}, undefined, isFlooded ? 'recover-flooded' : 'recover-agm');
  job.triage(Number(read(postVolts(cells), 'meterV', `${seed} rested`).toFixed(2)), {
    tempC: caseC('found'),
    densities: Array.from({ length: type.cells }, (_, cell) =>
      Number(read(hydrometerAt(cells, cell + 1), 'hydrometer', `${seed} cell ${cell}`).toFixed(3)),
    ),
    told: TOLD[kind],
  });
  job.route('slow-charge', 'as it came');
  const { current } = job;
  const context = contextOf(job.job.state, current.round);
  const definition = definitionOf(job.job.state, current);
  if (definition.kind !== 'charge') throw new Error('no charge');
  const treatment = definition.treatment?.(context);
  if (!treatment) throw new Error('no treatment');
  const { setA } = treatment;
  job.put('chargeStarted', { step: current.key, currentA: setA });
  const limits = limitsOf(context, definition, treatment.dueMin);
  const plan = heldPlan(setA, limits.ceilingV, limits.mostMin * 60 + 3600, 'wake', limits.isCompensated);
  const run = new ModelRun(cells, new ChargeEngine(plan, subjectOfType(type)), { ambientC: roomC });
  const believer = new Believer();
  const looks: { at: number; minute: number; voltageV: number; currentA: number; tempC: number }[] = [];
  const words: Word[] = [];
  for (let minute = EVERY_MIN; minute <= treatment.dueMin; minute += EVERY_MIN) {
    run.runUntil(minute * 60);
    const here = `${seed} ${minute}`;
    const voltageV = Number(read(run.volts(), 'meterV', `${here} V`).toFixed(2));
    const currentA = Number(Math.max(0, read(cells.currentA, 'shuntA', `${here} A`)).toFixed(2));
    const tempC = caseC(String(minute));
    job.wait(EVERY_MIN).read(voltageV, currentA, tempC);
    looks.push({ at: job.now, minute, voltageV, currentA, tempC });
    const { state } = job.job;
    const isStopped = state.steps.some(({ charge }) => charge?.stopped !== undefined);
    if (isStopped) return { typeId, roomC, words, isStopped };
    const course = courseOf(state);
    const question = { setting: settingOf(state, course), readings: course.readings, seed: index + 1 };
    const stage = course.passages.length - 1;
    const within = Math.min(course.passages[stage]?.minutes ?? treatment.dueMin, treatment.dueMin * 1.2);
    const say = (): GoingOn => {
      const band = bandOf(believer.standIns(question, BAND_COUNT), stage, within, type.capacityAh);
      const ceilingV = ceilingNow(limits, type, tempC);
      const found = goingOn({ looks, setA, ceilingV, cells: type.cells, capacityAh: type.capacityAh }, band);
      if (!found) throw new Error('nothing is said');
      return found;
    };
    believer.answer(question);
    const atOnce = say();
    believer.goOn(question, () => false);
    words.push({ minute, atOnce, atRest: say() });
    if (atHand(state, job.now)?.phase === 'complete') break;
  }
  return { typeId, roomC, words, isStopped: false };
}

/** Words that are true of a battery of this kind, whatever else is said of it. */
const TRUE_OF: Readonly<Record<'sound' | 'sulfated', readonly CourseId[]>> = {
  sound: ['on-course', 'full', 'full-or-sulfated'],
  sulfated: ['on-course', 'full', 'full-or-sulfated', 'waking', 'sulfated-rise'],
};

export const isFalse = (kind: 'sound' | 'sulfated', { course }: GoingOn): boolean =>
  !TRUE_OF[kind].includes(course);
