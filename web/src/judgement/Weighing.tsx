/** How far the comparison of ways has come, or why there is none. */
import type { Advice } from './useAdvice.ts';

export function Weighing({ advice: { isOn, recommendation, progress, error } }: { advice: Advice }) {
  if (isOn)
    return (
      <p>It is on charge: its looks decide. The ways on from here are compared once the charger is off.</p>
    );
  if (recommendation || (error !== null && error !== undefined)) return null;
  if (progress === undefined)
    return <p className="text-soft">The ways back are compared as soon as the estimate is refined …</p>;
  return (
    <p className="text-soft">
      <progress
        value={progress}
        aria-label="Ways back run so far"
        className="mr-3 h-3 w-40 appearance-none overflow-hidden rounded-full bg-panel align-middle [&::-moz-progress-bar]:bg-cork [&::-webkit-progress-bar]:bg-rail [&::-webkit-progress-value]:bg-cork"
      />
      Every open way back is run on its candidates.
    </p>
  );
}
