/** Judges one battery of several, unseen: whoever shows it hears what its ways would bring. */
import { useEffect } from 'react';
import type { Scored } from '@cork-ember/core/advice/compare.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { useAdvice } from '../judgement/useAdvice.ts';
import { useBelief } from '../judgement/useBelief.ts';

interface JudgingProps {
  readonly state: JobState;
  readonly onJudged: (scored: readonly Scored[]) => void;
}

export function Judging({ state, onJudged }: JudgingProps) {
  const { comparison, error } = useAdvice(state, useBelief(state));
  useEffect(() => {
    // One that cannot be judged has no way that is known to be worth its hands.
    if (comparison) onJudged(comparison.scored);
    else if (error !== null && error !== undefined) onJudged([]);
  }, [comparison, error, onJudged]);
  return null;
}
