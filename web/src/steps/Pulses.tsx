/** What a desulfating charger does by its own programme: plain and pulsed current side by side, and the stage it is in. */
import type { BatteryType } from '@cork-ember/core/battery/types.ts';
import {
  pulseStage,
  type Charger,
  type ChargerPulses,
  type PulseStage,
} from '@cork-ember/core/charge/charger.ts';
import type { ChargeReading } from '@cork-ember/core/charge/proofOfFull.ts';
import { durationText } from '@cork-ember/core/clock/clockText.ts';

const STAGE_WORDS: Readonly<Record<PulseStage, string>> = {
  charging: 'still charging: pulses come once it has risen',
  pulsing: 'pulsing',
  reconditioning: 'in its recondition stage: it gasses, stay near',
  maintaining: 'maintaining: its programme is through',
};

const WIDTH = 150;
const HEIGHT = 48;
/** Spikes drawn; each is a spike, a settle and a rest. */
const SHOWN = 4;

/** Schematic, current upwards over time: a line, or spikes with a settle and a rest between them. */
function Wave({ name, isPulsed }: { name: string; isPulsed: boolean }) {
  const turn = WIDTH / SHOWN;
  const pulsed = Array.from({ length: SHOWN }, (_, index) => {
    const x = index * turn;
    return `${x},40 ${x},6 ${x + 4},6 ${x + 4},28 ${x + turn * 0.6},28 ${x + turn * 0.6},40 ${x + turn},40`;
  }).join(' ');
  return (
    <figure>
      <svg width={WIDTH} height={HEIGHT} aria-hidden>
        <line x1={0} y1={40} x2={WIDTH} y2={40} className="stroke-line" strokeWidth={1} />
        <polyline
          points={isPulsed ? pulsed : `0,24 ${WIDTH},24`}
          fill="none"
          className="stroke-ember"
          strokeWidth={2}
        />
      </svg>
      <figcaption className="text-sm text-soft">{name}</figcaption>
    </figure>
  );
}

function Programme({
  pulses: { peakA, seconds, hertz, programmeH, reconditionV },
}: {
  pulses: ChargerPulses;
}) {
  const long = seconds < 0.01 ? `${(seconds * 1000).toPrecision(2)} ms` : `${seconds} s`;
  return (
    <p>
      Its own programme: spikes of <span className="reading">{peakA} A</span>, {long} each,{' '}
      <span className="reading">{hertz}</span> a second, for{' '}
      <strong className="reading">{durationText(programmeH * 3_600_000)}</strong>
      {reconditionV === undefined
        ? ''
        : `; a recondition stage up to ${reconditionV.toFixed(1)} V on six cells`}
      .
    </p>
  );
}

export function Pulses({
  charger,
  last,
  type,
}: {
  charger: Charger | undefined;
  last?: ChargeReading | undefined;
  type: BatteryType;
}) {
  const pulses = charger?.pulses;
  return (
    <section aria-label="Pulses" className="mx-5 mt-4 rounded-lg border border-line p-3">
      <div className="flex flex-wrap gap-6">
        <Wave name="Plain charge" isPulsed={false} />
        <Wave name="Pulsed: spike, settle, rest" isPulsed />
      </div>
      {pulses ? (
        <Programme pulses={pulses} />
      ) : (
        <p className="text-soft">This charger’s programme is not in Setup; a week is planned, then a test.</p>
      )}
      {pulses && last && (
        <p className="mt-1 font-semibold">
          By the last look it is{' '}
          {STAGE_WORDS[pulseStage(pulses, { volts: last.voltageV, amps: last.currentA }, type)]}.
        </p>
      )}
    </section>
  );
}
