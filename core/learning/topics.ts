/** What a shop can learn, and what of its record it learns from. */

/** Each by itself. */
export const TOPICS = {
  causes: 'What is the matter with them',
  ways: 'Which ways bring them back',
  minutes: 'Minutes of hands',
  tester: 'What the tester shows',
} as const;
export type Topic = keyof typeof TOPICS;
export const TOPIC_IDS = Object.keys(TOPICS) as Topic[];

/** What of its record a shop learns from; a part of its settings. */
export interface LearningRule {
  /** Jobs as another shop kept them. */
  readonly countsImported: boolean;
  /** Jobs that came to no grade. */
  readonly countsWithdrawn: boolean;
  /** Topics that were begun anew, and when, ms: what ended before says nothing of them. */
  readonly since: Readonly<Partial<Record<Topic, number>>>;
}

export const USUAL_LEARNING: LearningRule = { countsImported: false, countsWithdrawn: false, since: {} };
