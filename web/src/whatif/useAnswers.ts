/** Asks the worker, and keeps the last answer on screen while the next is worked out. */
import { proxy } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { PlanAnswer } from '@cork-ember/core/whatif/answer.ts';
import type { Question } from '@cork-ember/core/whatif/question.ts';
import { sentenceOf } from '../api/client.ts';
import { Hired } from '../workers/hired.ts';
import type { Answerer } from '../workers/whatIf.worker.ts';

const answerer = new Hired<Answerer>(
  () => new Worker(new URL('../workers/whatIf.worker.ts', import.meta.url), { type: 'module' }),
);
/** Rises with every question asked of it. */
let latest = 0;

interface Answered {
  /** The question these answers are to. */
  readonly question: Question;
  readonly answers: readonly PlanAnswer[];
}

export interface Asking {
  readonly answered: Answered | undefined;
  /** 0–1 while long work runs. */
  readonly progress: number | undefined;
  readonly problem: string | undefined;
  readonly cancel: () => void;
}

/** Work shorter than this shows no progress: it would only flicker. */
const SHOW_PROGRESS_MS = 250;

export function useAnswers(question: Question): Asking {
  const asked = useRef(0);
  const [answered, setAnswered] = useState<Answered>();
  const [progress, setProgress] = useState<number>();
  const [problem, setProblem] = useState<string>();

  // Nobody is left to answer to.
  useEffect(() => () => answerer.dismiss(), []);

  useEffect(() => {
    const id = ++latest;
    asked.current = id;
    let isSlow = false;
    const slow = setTimeout(() => (isSlow = true), SHOW_PROGRESS_MS);
    const tell = proxy((share: number) => {
      if (isSlow && asked.current === id) setProgress(share);
    });
    const settle = (): boolean => {
      clearTimeout(slow);
      if (asked.current !== id) return false;
      setProgress(undefined);
      return true;
    };
    answerer
      .ask((worker) => worker.answer(question, id, tell))
      .then(
        (answers) => {
          if (!settle() || !answers) return;
          setProblem(undefined);
          setAnswered({ question, answers });
        },
        (error: unknown) => {
          if (settle()) setProblem(sentenceOf(error));
        },
      );
    return () => clearTimeout(slow);
  }, [question]);

  const cancel = useCallback(() => {
    asked.current = ++latest;
    setProgress(undefined);
    const id = latest;
    answerer.ask((worker) => worker.cancel(id)).catch((error: unknown) => setProblem(sentenceOf(error)));
  }, []);
  return { answered, progress, problem, cancel };
}
