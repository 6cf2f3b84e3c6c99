/** Answers What-if questions off the main thread. A newer question makes an older one give up. */
import { expose } from 'comlink';
import { answerPlan, type PlanAnswer } from '@cork-ember/core/whatif/answer.ts';
import type { Question } from '@cork-ember/core/whatif/question.ts';
import { turn } from './turn.ts';

export interface Progress {
  (doneShare: number): void;
}

let latest = 0;

const answerer = {
  /**
   * @param id rises with every question
   * @returns the answers, or undefined when a newer question came meanwhile
   */
  async answer(question: Question, id: number, progress: Progress): Promise<PlanAnswer[] | undefined> {
    latest = Math.max(latest, id);
    const answers: PlanAnswer[] = [];
    for (let index = 0; index < question.plans.length; index++) {
      const answer = await answerPlan(question, index, async (share) => {
        progress((index + share) / question.plans.length);
        await turn();
        return latest === id;
      });
      if (!answer || latest !== id) return undefined;
      answers.push(answer);
    }
    return answers;
  },

  /** Gives up whatever is being worked on. */
  cancel(id: number): void {
    latest = Math.max(latest, id);
  },
};

export type Answerer = typeof answerer;

expose(answerer);
