/** Group commit: what arrives while the disk is busy is written together, in one go. */

interface Waiting<T> {
  readonly item: T;
  readonly resolve: () => void;
  readonly reject: (error: unknown) => void;
}

export class Batch<T> {
  private waiting: Waiting<T>[] = [];
  private isWriting = false;
  private readonly write: (items: readonly T[]) => Promise<void>;

  /** @param write writes all of them or none, and returns when they are on disk */
  constructor(write: (items: readonly T[]) => Promise<void>) {
    this.write = write;
  }

  /** Returns when the item is on disk; throws what writing it threw. */
  add(item: T): Promise<void> {
    return new Promise((resolve, reject) => {
      this.waiting.push({ item, resolve, reject });
      if (!this.isWriting) void this.writeAll();
    });
  }

  private async writeAll(): Promise<void> {
    this.isWriting = true;
    while (this.waiting.length > 0) {
      const group = this.waiting;
      this.waiting = [];
      await this.writeGroup(group);
    }
    this.isWriting = false;
  }

  /** A group that fails is tried one by one, so that one bad item does not take the others with it. */
  private async writeGroup(group: readonly Waiting<T>[]): Promise<void> {
    try {
      await this.write(group.map(({ item }) => item));
      for (const { resolve } of group) resolve();
    } catch (error) {
      const [only, ...others] = group;
      if (only && others.length === 0) only.reject(error);
      else for (const one of group) await this.writeGroup([one]);
    }
  }
}
