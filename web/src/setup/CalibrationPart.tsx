/** A device held against a better instrument at two points of what it shows. */
import { useState } from 'react';
import { dateText } from '@cork-ember/core/clock/clockText.ts';
import { calibrationDueAt, lineProblem, type CalibrationLine } from '@cork-ember/core/devices/calibration.ts';
import type { Device } from '@cork-ember/core/devices/device.ts';
import { PUSHED, type Pushed } from '@cork-ember/core/devices/profile.ts';
import { useMinute } from '../api/clock.ts';
import { useShop } from '../api/queries.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import type { DevicePartProps } from './devicePart.ts';

const WORDS: Readonly<Record<Pushed, readonly [name: string, unit: string]>> = {
  volts: ['Volts', 'V'],
  amps: ['Amperes', 'A'],
  tempC: ['Warmth', '°C'],
};
const EVERY_MONTHS = 12;

/** What is typed so far: shown and true, at the one point and at the other. */
type Typed = Partial<Record<Pushed, readonly (number | undefined)[]>>;

const lineOf = (typed: readonly (number | undefined)[] = []): CalibrationLine | undefined => {
  const [shownA, isA, shownB, isB] = typed;
  if (shownA === undefined || isA === undefined || shownB === undefined || isB === undefined)
    return undefined;
  return [
    { shown: shownA, is: isA },
    { shown: shownB, is: isB },
  ];
};

function Standing({ device }: { device: Device }) {
  const { data: shop } = useShop();
  const now = useMinute();
  const { calibration } = device;
  const timeZone = shop?.hours.timeZone ?? 'Etc/UTC';
  if (!calibration) return <>never calibrated here</>;
  const dueAt = calibrationDueAt(calibration);
  return (
    <>
      calibrated {dateText(calibration.at, timeZone)}
      {dueAt < now ? (
        <strong className="text-brass-ink">, due since {dateText(dueAt, timeZone)}</strong>
      ) : (
        `, due ${dateText(dueAt, timeZone)}`
      )}
    </>
  );
}

export function CalibrationPart({ device, profile, onChange }: DevicePartProps) {
  const now = useMinute();
  const [typed, setTyped] = useState<Typed>({});
  const read = PUSHED.filter((what) => what in profile.speech.asks);
  if (read.length === 0) return null;
  const lines = Object.fromEntries(
    read.flatMap((what) => {
      const line = lineOf(typed[what]);
      return line ? [[what, line] as const] : [];
    }),
  ) as Partial<Record<Pushed, CalibrationLine>>;
  const problem = read
    .map((what) => {
      const line = lines[what];
      return line && lineProblem(what, line);
    })
    .find((one) => one !== undefined);
  const isReady = Object.keys(lines).length > 0 && problem === undefined;
  const put = (what: Pushed, place: number, value: number | undefined): void => {
    const before = typed[what] ?? [];
    setTyped({ ...typed, [what]: [0, 1, 2, 3].map((at) => (at === place ? value : before[at])) });
  };
  return (
    <details className="mt-2">
      <summary className="flex min-h-12 cursor-pointer items-center text-soft">
        <span>
          Calibrate: <Standing device={device} />
        </span>
      </summary>
      <p className="text-soft">
        Hold a better instrument beside it at two points far apart: what it shows, and what is. As it shows
        today, before any calibration here.
      </p>
      {read.map((what) => (
        <fieldset key={what} className="mt-2">
          <legend className="font-medium">{WORDS[what][0]}</legend>
          <div className="grid grid-cols-2 gap-3 lg:grid-cols-4">
            {['It shows, low', 'It is, low', 'It shows, high', 'It is, high'].map((label, place) => (
              <NumberField
                key={label}
                label={label}
                unit={WORDS[what][1]}
                value={undefined}
                onChange={(value) => put(what, place, value)}
              />
            ))}
          </div>
        </fieldset>
      ))}
      {problem !== undefined && (
        <div className="mt-2">
          <Notice tone="stop">{problem}</Notice>
        </div>
      )}
      <div className="mt-3 flex flex-wrap gap-3">
        <Button
          disabled={!isReady}
          onClick={() => onChange({ ...device, calibration: { at: now, everyMonths: EVERY_MONTHS, lines } })}
        >
          Calibrate with these
        </Button>
        {device.calibration && (
          <Button
            tone="quiet"
            onClick={() => {
              const { calibration: _gone, ...plain } = device;
              onChange(plain);
            }}
          >
            Take its calibration away
          </Button>
        )}
      </div>
    </details>
  );
}
