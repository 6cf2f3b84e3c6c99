/** Who listens to the shop: every open browser, told of each change as it is recorded. */
import type { StreamMessage } from '@cork-ember/core/contract/answers.ts';

/** @param line the message as it is sent, written once for all who hear it */
export type Listener = (message: StreamMessage, line: string) => void;

export class Stream {
  private readonly listeners = new Set<Listener>();
  /** Parts of the server itself. */
  private readonly inside = new Set<(message: StreamMessage) => void>();

  get count(): number {
    return this.listeners.size;
  }

  /** @returns a function that ends it */
  listen(listener: Listener): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** For a part of the server that goes by what is told. */
  overhear(take: (message: StreamMessage) => void): void {
    this.inside.add(take);
  }

  tell(message: StreamMessage): void {
    for (const take of this.inside) take(message);
    const line = `data: ${JSON.stringify(message)}\n\n`;
    for (const listener of this.listeners) listener(message, line);
  }
}
