/**
 * The line to the bench, which is a program of its own: begun when it is first needed, told twice a second that the server is there, asked for what it has in hand, and known
 * to be gone where it says nothing any more.
 */
import { fork, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import type {
  Addressed,
  Answer,
  FromBench,
  Question,
  ToBench,
} from '@cork-ember/core/devices/bay/messages.ts';
import type { Driver } from '@cork-ember/core/devices/driver.ts';
import { DeviceError } from '@cork-ember/core/devices/wire.ts';
import { elapsedNow } from '../clock/realTime.ts';

const BEAT_MS = 500;
const ENDS_WITHIN_MS = 5000;
const SILENT_MS = 3000;
/** A device has its own time to answer in, and those before it theirs. */
const ANSWERED_WITHIN_MS = 5000;

const PROGRAM = fileURLToPath(
  new URL(
    import.meta.url.endsWith('.ts') ? '../bench/benchProcess.ts' : './benchProcess.js',
    import.meta.url,
  ),
);

/** Whoever had a device in hand is gone, or says nothing any more: its cable is free. */
export class HandGone extends Error {
  constructor() {
    super('The program that had the device in hand does not answer.');
    this.name = 'HandGone';
  }
}

interface BenchLinkNeed {
  /** What it is to know of the shop, at each beat. */
  readonly now: () => Omit<Extract<ToBench, { kind: 'beat' }>, 'kind'>;
  /** What it says by itself. */
  readonly hear: (message: Exclude<FromBench, { kind: 'answer' }>) => void;
  /** Whether it has to speak each second. */
  readonly isBusy: () => boolean;
  /** With each beat, as long as there ever was a bench. */
  readonly beaten: () => void;
  readonly gone: () => void;
}

export class BenchLink {
  private readonly need: BenchLinkNeed;
  private bench: ChildProcess | undefined;
  private timer: NodeJS.Timeout | undefined;
  private heardAt = 0;
  private questions = 0;
  private readonly answers = new Map<number, (answer: Answer | undefined) => void>();

  constructor(need: BenchLinkNeed) {
    this.need = need;
  }

  tell(message: ToBench): void {
    const bench = this.there();
    // An order goes by the clock as it is now.
    this.beat(bench);
    bench.send(message);
  }

  /** A device as the bench speaks to it: what that has in hand nobody else opens. Undefined where there is no bench. */
  driverOf(of: Addressed): Driver | undefined {
    if (!this.bench) return undefined;
    const ask = (question: Question): Promise<number | string | null> => this.ask(of, question);
    return {
      profile: of.profile,
      identify: async () => String(await ask({ kind: 'identify' })),
      ask: async (what) => Number(await ask({ kind: 'figure', what })),
      tell: async (what, value) => {
        await ask({ kind: 'tell', what, ...(value === undefined ? {} : { value }) });
      },
    };
  }

  /** It switches everything off and ends; nobody misses it then. */
  async end(): Promise<void> {
    clearInterval(this.timer);
    const { bench } = this;
    if (!bench) return;
    bench.removeAllListeners('exit');
    const ended = new Promise((resolve) => bench.once('exit', resolve));
    bench.disconnect();
    // One that hears nothing any more has let go of its supplies: their watchdogs act.
    const late = setTimeout(() => bench.kill('SIGKILL'), ENDS_WITHIN_MS);
    await ended;
    clearTimeout(late);
  }

  /** @throws DeviceError as the device does; HandGone where the bench does not answer for it */
  private ask(of: Addressed, question: Question): Promise<number | string | null> {
    const number = (this.questions += 1);
    return new Promise((resolve, reject) => {
      const heard = (answer: Answer | undefined): void => {
        clearTimeout(late);
        this.answers.delete(number);
        if (answer === undefined) reject(new HandGone());
        else if ('value' in answer) resolve(answer.value);
        else reject(new DeviceError(answer.trouble, answer.says));
      };
      const late = setTimeout(() => heard(undefined), ANSWERED_WITHIN_MS);
      this.answers.set(number, heard);
      this.tell({ kind: 'ask', number, of, question });
    });
  }

  private there(): ChildProcess {
    if (this.bench) return this.bench;
    const bench = fork(PROGRAM);
    this.bench = bench;
    bench.on('message', (message: FromBench) => {
      this.heardAt = elapsedNow();
      if (message.kind === 'answer') this.answers.get(message.number)?.(message);
      else this.need.hear(message);
    });
    bench.once('exit', () => {
      this.bench = undefined;
      for (const heard of this.answers.values()) heard(undefined);
      this.need.gone();
    });
    this.beat(bench);
    this.timer ??= setInterval(() => {
      if (this.bench) this.beat(this.bench);
      this.lookAtIt();
      this.need.beaten();
    }, BEAT_MS);
    return bench;
  }

  private beat(bench: ChildProcess): void {
    const beat: ToBench = { kind: 'beat', ...this.need.now() };
    if (bench.connected) bench.send(beat);
  }

  /** One that should speak each second and does not is gone, whatever it still is. */
  private lookAtIt(): void {
    if (this.need.isBusy() && elapsedNow() - this.heardAt > SILENT_MS) this.bench?.kill('SIGKILL');
  }
}
