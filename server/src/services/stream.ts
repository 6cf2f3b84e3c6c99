/** Who listens to the shop: every open browser, told of each change as it is recorded. */
import type { StreamMessage } from '@cork-ember/core/contract/answers.ts';

/** @param line the message as it is sent, written once for all who hear it */
export type Listener = (message: StreamMessage, line: string) => void;

export class Stream {
  private readonly listeners = new Set<Listener>();

  get count(): number {
    return this.listeners.size;
  }

  /** @returns a function that ends it */
  listen(listener: Listener): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  tell(message: StreamMessage): void {
    const line = `data: ${JSON.stringify(message)}\n\n`;
    for (const listener of this.listeners) listener(message, line);
  }
}
