/** Draws from every job that ended what it teaches, while nobody waits, and says what the shop's judgement goes by. */
import { setTimeout } from 'node:timers/promises';
import type { Logger } from 'pino';
import { lessonOf } from '@cork-ember/core/adapters/lessonFromJob.ts';
import type { LearnedAnswer } from '@cork-ember/core/contract/answers.ts';
import { learnedFrom, type KeptLesson, type Learned } from '@cork-ember/core/learning/learned.ts';
import type { Lesson } from '@cork-ember/core/learning/lesson.ts';
import { USUAL_LEARNING, type LearningRule } from '@cork-ember/core/learning/topics.ts';
import { ALL_PROCEDURES } from '@cork-ember/core/runsheet/procedures/procedures.ts';
import { elapsedNow } from '../clock/realTime.ts';
import { breather } from '../gently.ts';
import type { JobStore } from '../store/jobStore.ts';
import type { LessonStore } from '../store/lessonStore.ts';
import { readJob } from './reading.ts';
import type { ShopSettings } from './shop.ts';
import type { Stream } from './stream.ts';

/** The bench comes first: it is looked for jobs that ended this often. */
const LOOK_EVERY_MS = 120_000;

interface LearningNeed {
  readonly store: JobStore;
  readonly lessons: LessonStore;
  readonly settings: ShopSettings;
  readonly stream: Stream;
  readonly log: Logger;
}

export class Learning {
  private readonly need: LearningNeed;
  private kept: readonly KeptLesson[] = [];
  private last:
    | { readonly kept: readonly KeptLesson[]; readonly rule: LearningRule; readonly learned: Learned }
    | undefined;
  private timer: NodeJS.Timeout | undefined;
  private drawing: Promise<void> | undefined;
  private isEnded = false;
  /** Somebody waits for it. */
  private isAsked = false;

  constructor(need: LearningNeed) {
    this.need = need;
  }

  /** Reads what was drawn before. */
  async load(): Promise<void> {
    this.kept = await this.need.lessons.all();
  }

  /** Looks now and then from now on. */
  begin(): void {
    this.timer = setInterval(() => this.draw(), LOOK_EVERY_MS);
    this.timer.unref();
  }

  async end(): Promise<void> {
    this.isEnded = true;
    clearInterval(this.timer);
    await this.drawing;
  }

  /** Draws from all that is not drawn from yet, unless it is at it already. */
  draw(): void {
    this.drawing ??= this.drawAll()
      .catch((error: unknown) => this.need.log.error({ err: error }, 'what jobs teach could not be kept'))
      .finally(() => {
        this.drawing = undefined;
        this.isAsked = false;
      });
  }

  /** The same, without the pauses: somebody waits for it. */
  drawNow(): void {
    this.isAsked = true;
    this.draw();
  }

  /** Once nothing is left to draw from. */
  async drawn(): Promise<void> {
    this.drawNow();
    await this.drawing;
  }

  private async drawAll(): Promise<void> {
    const { lessons, stream } = this.need;
    let isNew = false;
    for (let job = await lessons.next(); job !== undefined && !this.isEnded; job = await lessons.next()) {
      const since = elapsedNow();
      const lesson = await this.lesson(job);
      if (this.isEnded) return;
      await lessons.write(job, lesson);
      isNew ||= lesson !== null;
      // Half of one core at most.
      if (!this.isAsked) await setTimeout(elapsedNow() - since);
    }
    if (this.isEnded || !isNew) return;
    await this.load();
    stream.tell({ kind: 'shop' });
  }

  /** A record that cannot be read teaches nothing. */
  private async lesson(job: string): Promise<Lesson | null> {
    const { store, lessons, log } = this.need;
    try {
      const { log: events, state } = readJob(await store.kept(job));
      const beside = await lessons.beside(job, state.openedAt, state.endedAt ?? state.openedAt);
      const work = lessonOf(events, beside);
      const breath = breather();
      for (;;) {
        const step = work.next();
        if (step.done) return step.value ?? null;
        await breath();
        if (this.isEnded) return null;
      }
    } catch (error) {
      log.warn({ job, err: error }, 'nothing could be learned from a job');
      return null;
    }
  }

  private learned(): Learned {
    const rule = this.need.settings.shop.learning ?? USUAL_LEARNING;
    const { kept } = this;
    if (this.last?.kept === kept && this.last.rule === rule) return this.last.learned;
    const learned = learnedFrom(kept, rule);
    this.last = { kept, rule, learned };
    return learned;
  }

  /** All of it, as it is shown. */
  async answer(): Promise<LearnedAnswer> {
    const left = await this.need.lessons.left();
    const { causes, ways, minutes, tester, inForce } = this.learned();
    return {
      left,
      inForce,
      jobs: inForce.jobs,
      causes,
      ways: ways.map((one) => ({ ...one, title: wayTitle(one.way) })),
      minutes: Object.entries(minutes).map(([step, here]) => ({ step, title: stepTitle(step), ...here })),
      tester,
      imported: this.kept.filter(({ isImported }) => isImported).length,
      withdrawn: this.kept.filter(({ lesson }) => lesson.isWithdrawn).length,
    };
  }
}

const routes = ALL_PROCEDURES.flatMap((procedure) => procedure.routes ?? []);
const steps = [
  ...ALL_PROCEDURES.flatMap((procedure) => procedure.steps),
  ...routes.flatMap((route) => route.steps),
];

const wayTitle = (id: string): string => routes.find((route) => route.id === id)?.title ?? id;
const stepTitle = (id: string): string => steps.find((step) => step.id === id)?.title ?? id;
