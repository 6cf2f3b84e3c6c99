/** Which edition of the run sheets a log goes by. */
import type { OpenedPayload } from './events.ts';

/** Whether a job goes by this edition or a later one. */
export function isOfEdition({ edition }: Pick<OpenedPayload, 'edition'>, least: number): boolean {
  return (edition ?? 1) >= least;
}
