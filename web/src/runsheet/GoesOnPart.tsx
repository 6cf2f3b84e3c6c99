/** A bay that goes on by itself for days: what is agreed to as it is switched on, and what it waits for meanwhile. */
import { whenText } from '@cork-ember/core/clock/clockText.ts';
import type { GoesOnTo } from '@cork-ember/core/devices/bay/messages.ts';
import { Button } from '../ui/Button.tsx';
import { Tick } from '../ui/Tick.tsx';
import type { GoesOn } from '@cork-ember/core/adapters/bayProgramme.ts';
import { MethodChoice } from './MethodChoice.tsx';
import type { Beyond } from './goesOn.ts';

function wordsFor({ isProved, isDrawn }: Beyond): string {
  if (!isProved) return 'The gas clears, it rests and is read.';
  return isDrawn
    ? 'The gas clears, it rests and is read. Where it came full, its capacity is measured and put back, and its hold is read.'
    : 'The gas clears, it rests and is read. Where it came full, it is on its way to be proved.';
}

interface GoesOnPartProps {
  readonly beyond: Beyond;
  readonly chosen: GoesOn | undefined;
  readonly onChoose: (chosen: GoesOn | undefined) => void;
}

export function GoesOnPart({ beyond, chosen, onChoose }: GoesOnPartProps) {
  const { isProved, methods } = beyond;
  return (
    <fieldset className="rounded-lg border-2 border-line px-3 pb-3">
      <legend className="px-1 text-sm font-medium">And then</legend>
      <Tick
        label="Go on by itself until hands are asked for"
        className="font-medium"
        isOn={chosen !== undefined}
        onChange={(isOn) => onChoose(isOn ? { leavesTester: true } : undefined)}
      />
      <p className="text-soft">
        {wordsFor(beyond)} By night only where the house lets it; at the first doubt it is off, and stays off.
      </p>
      {chosen && isProved && (
        <Tick
          label="Leave cranking out: nobody comes with a tester, and the grade says so"
          isOn={chosen.leavesTester}
          onChange={(leavesTester) => onChoose({ ...chosen, leavesTester })}
        />
      )}
      {chosen && (
        <MethodChoice
          label="Its capacity is measured"
          methods={methods}
          method={chosen.method}
          onChoose={(method) => onChoose({ ...chosen, method })}
        />
      )}
    </fieldset>
  );
}

interface GoingOnProps {
  readonly to: GoesOnTo;
  readonly timeZone: string;
  readonly now: number;
  /** Where nothing flows now. */
  readonly onEnd: (() => void) | undefined;
}

/** What it waits for, and that it is not to be waited on. */
export function GoingOn({ to: { title, untilMs }, timeZone, now, onEnd }: GoingOnProps) {
  return (
    <div className="flex flex-wrap items-center gap-3">
      <p className="min-w-0 flex-1 basis-72 font-semibold text-verdigris">
        {untilMs === undefined
          ? 'Then it goes on by itself.'
          : `It goes on by itself. ${title}: until ${whenText(untilMs, now, timeZone)}.`}
      </p>
      {onEnd && (
        <Button className="min-h-14" onClick={onEnd}>
          By hand from here
        </Button>
      )}
    </div>
  );
}
