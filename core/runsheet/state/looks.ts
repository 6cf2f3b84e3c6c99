/** A job's looks on charge, and the time it was on. */
import type { ChargeReading } from '../../charge/proofOfFull.ts';
import type { ChargeRun, ChargeState, JobState, ReadingChain } from './jobState.ts';

const MINUTE = 60_000;

/** Whether its charger is on. */
export const isOn = ({ pausedFor }: ChargeState): boolean => pausedFor === undefined;

/** Stretches on charge, cut where the current was set anew. */
export function piecesOf({
  runs,
  currentA,
  wasSet = [],
}: ChargeState): readonly (ChargeRun & { readonly amps: number })[] {
  const set = [...wasSet, { currentA, to: Number.POSITIVE_INFINITY }];
  return runs.flatMap(({ from, to }) =>
    set.flatMap((one, index) => {
      const begins = Math.max(from, set[index - 1]?.to ?? from);
      const ends = Math.min(to ?? Number.POSITIVE_INFINITY, one.to);
      if (ends <= begins) return [];
      return [{ from: begins, ...(Number.isFinite(ends) ? { to: ends } : {}), amps: one.currentA }];
    }),
  );
}

/** The readings of one charge in order of time. */
export function readingsOf(state: JobState, stepKey: string | undefined): ChargeReading[] {
  return readingsFrom(state.readings, stepKey);
}

/** The same, from the chain alone. */
export function readingsFrom(chain: ReadingChain | undefined, stepKey: string | undefined): ChargeReading[] {
  const readings: ChargeReading[] = [];
  for (let link = chain; link; link = link.before) if (link.step === stepKey) readings.push(link.reading);
  return readings.reverse();
}

/** The latest link of one charge. */
export function lastLinkOf(state: JobState, stepKey: string): ReadingChain | undefined {
  let link = state.readings;
  while (link && link.step !== stepKey) link = link.before;
  return link;
}

/** The same job as it was seen up to a moment: looks on charge after it left out. */
export function withoutLooksAfter(state: JobState, at: number): JobState {
  let link = state.readings;
  while (link && link.reading.at > at) link = link.before;
  const { readings: _all, ...rest } = state;
  return link ? { ...rest, readings: link } : rest;
}

/** The latest reading of one charge. */
export function lastReadingOf(state: JobState, stepKey: string | undefined): ChargeReading | undefined {
  return stepKey === undefined ? undefined : lastLinkOf(state, stepKey)?.reading;
}

/** Minutes on charge up to a moment; pauses do not count. */
export function minutesOnCharge(charge: ChargeState, at: number): number {
  return (
    charge.runs.reduce((sum, run) => sum + Math.max(0, (run.to ?? Math.max(at, run.from)) - run.from), 0) /
    MINUTE
  );
}
