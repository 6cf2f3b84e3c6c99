/** Which alarm sounds now, if any: danger above overdue above due, and what was heard stays quiet for a while. */
import type { Hand } from './hand.ts';

export type AlarmLevel = 'danger' | 'overdue' | 'due';

export interface Alarm {
  /** The same as long as the same thing is wrong: worse is another alarm. */
  readonly key: string;
  readonly level: AlarmLevel;
  readonly hand: Hand;
}

/** When each alarm was last acknowledged, real time, ms. */
export type Heard = Readonly<Record<string, number>>;

/**
 * How long "heard" keeps an alarm quiet, ms of real time. Danger comes back every minute until it is over:
 * it is never silent.
 */
const QUIET_MS: Record<AlarmLevel, number> = {
  danger: 60_000,
  overdue: 600_000,
  due: Number.POSITIVE_INFINITY,
};
/** And how often it sounds until it is heard, ms. */
export const EVERY_MS: Record<AlarmLevel, number> = { danger: 2_000, overdue: 30_000, due: 120_000 };

const LEVELS: readonly AlarmLevel[] = ['danger', 'overdue', 'due'];

/** Everything that is due or worse, the worst first. */
export function alarmsOf(hands: readonly Hand[]): Alarm[] {
  return LEVELS.flatMap((level) =>
    hands
      .filter(({ urgency }) => urgency === level)
      .map((hand) => ({ key: `${level} ${hand.job} ${hand.stepKey}`, level, hand })),
  );
}

/**
 * The alarm to sound.
 * @param isDangerOnly the shop wants quiet: due and overdue keep still, danger never does
 * @param realMs real time, not shop time: ears do not run at 600 times
 */
export function sounding(
  alarms: readonly Alarm[],
  heard: Heard,
  isDangerOnly: boolean,
  realMs: number,
): Alarm | undefined {
  return alarms.find(({ key, level }) => {
    if (isDangerOnly && level !== 'danger') return false;
    const since = heard[key];
    return since === undefined || realMs - since >= QUIET_MS[level];
  });
}
