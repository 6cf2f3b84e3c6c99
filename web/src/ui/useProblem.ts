/** The sentence a form shows for what it could not do. */
import { useRef, useState } from 'react';
import { sentenceOf } from '../api/client.ts';

/** One press of the form's button, on its way. */
export interface Attempt {
  readonly went: () => void;
  readonly failed: (error: unknown) => void;
}

/**
 * A form may be pressed again while the entry before is still on its way. The earlier one's late success
 * must not wipe away what the later one was refused for.
 * @returns the sentence, empty when there is none, and what begins an attempt
 */
export function useProblem(): { problem: string; attempt: () => Attempt } {
  const [problem, setProblem] = useState('');
  const latest = useRef(0);
  const attempt = (): Attempt => {
    latest.current += 1;
    const mine = latest.current;
    return {
      went: () => {
        if (latest.current === mine) setProblem('');
      },
      failed: (error) => setProblem(sentenceOf(error)),
    };
  };
  return { problem, attempt };
}
