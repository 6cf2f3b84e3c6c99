/** Judges one battery of several, unseen: whoever shows it hears what its ways would bring. */
import { useEffect } from 'react';
import type { Scored } from '@cork-ember/core/advice/compare.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { useAdvice } from '../judgement/useAdvice.ts';
import { useBelief } from '../judgement/useBelief.ts';

interface JudgingProps {
  readonly state: JobState;
  /** With what could not be judged it hears so: that is no word against the battery. */
  readonly onJudged: (scored: readonly Scored[] | 'failed') => void;
}

export function Judging({ state, onJudged }: JudgingProps) {
  const { comparison, error } = useAdvice(state, useBelief(state));
  useEffect(() => {
    if (comparison) onJudged(comparison.scored);
    else if (error !== null && error !== undefined) onJudged('failed');
  }, [comparison, error, onJudged]);
  return null;
}
