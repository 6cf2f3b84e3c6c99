/** Work done one after the other for the same name, side by side for different ones. */
export class Queue {
  private readonly tails = new Map<string, Promise<unknown>>();

  run<T>(name: string, work: () => Promise<T>): Promise<T> {
    const before = this.tails.get(name) ?? Promise.resolve();
    const mine = before.then(work, work);
    const tail = mine.catch(() => undefined);
    this.tails.set(name, tail);
    void tail.then(() => {
      if (this.tails.get(name) === tail) this.tails.delete(name);
    });
    return mine;
  }
}
