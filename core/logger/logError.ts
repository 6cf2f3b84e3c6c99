/** A file that cannot be taken in; the message says why, in one sentence. */
export class LogError extends Error {
  constructor(message: string) {
    super(message);
    this.name = 'LogError';
  }
}
