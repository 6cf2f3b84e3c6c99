/** A worker hired when it is first asked, and anew after it failed: what it was asked meanwhile is refused, never left hanging. */
import { wrap, type Remote } from 'comlink';

/** Said where a worker cannot be loaded, or falls over. */
export class WorkerLost extends Error {
  constructor() {
    super('What computes this has stopped. Try again; if it stays so, load the page anew.');
  }
}

export class Hired<T> {
  private thread: Worker | undefined;
  private remote: Remote<T> | undefined;
  private readonly waiting = new Set<(why: WorkerLost) => void>();

  /** @param make the worker; written out where it is called, for the build to find its file */
  constructor(private readonly make: () => Worker) {}

  /**
   * @returns what the call returns
   * @throws WorkerLost when the worker cannot be loaded or falls over before it has answered
   */
  async ask<R>(call: (worker: Remote<T>) => Promise<R>): Promise<R> {
    let giveUp: (why: WorkerLost) => void = () => undefined;
    const lost = new Promise<never>((_, reject) => (giveUp = reject));
    this.waiting.add(giveUp);
    try {
      return await Promise.race([call(this.hire()), lost]);
    } finally {
      this.waiting.delete(giveUp);
    }
  }

  /** Ends its work; nobody waits for it any more. */
  dismiss(): void {
    this.thread?.terminate();
    this.thread = undefined;
    this.remote = undefined;
  }

  private hire(): Remote<T> {
    if (this.remote) return this.remote;
    const thread = this.make();
    const fall = (): void => {
      if (this.thread !== thread) return;
      this.dismiss();
      const why = new WorkerLost();
      for (const giveUp of this.waiting) giveUp(why);
    };
    thread.addEventListener('error', fall);
    thread.addEventListener('messageerror', fall);
    this.thread = thread;
    this.remote = wrap<T>(thread);
    return this.remote;
  }
}
