export type RunSheetProblem =
  'not-open' | 'too-early' | 'held' | 'bad-entry' | 'closed' | 'cannot-correct' | 'out-of-order';

/** An entry the run sheet does not take. The message is one sentence for the technician. */
export class RunSheetError extends Error {
  readonly problem: RunSheetProblem;

  constructor(problem: RunSheetProblem, message: string) {
    super(message);
    this.name = 'RunSheetError';
    this.problem = problem;
  }
}
