/**
 * A battery off the bench as a fuse: it burns from now, thick up to its next charge, thin on towards the day it would come to its
 * recharge line, frayed where that may be sooner or later. A flag stands where hands are due, a stroke where sulfate begins to stay.
 */
import type { Shelved } from '@cork-ember/core/shelf/overview.ts';
import { cordPath, swayAt, xOf, type TimeScale } from '../cord/scale.ts';

const SWAY = 3;
const EMBER = 6;
const FLAG = 15;

interface FuseProps {
  readonly one: Shelved;
  readonly scale: TimeScale;
  readonly now: number;
  readonly height: number;
  readonly isAlarm: boolean;
  /** What it says, for whoever does not see it. */
  readonly said: string;
}

/** As far as is drawn. */
const shown = (scale: TimeScale, at: number | undefined): number =>
  Math.min(scale.width, xOf(scale, at ?? Number.MAX_SAFE_INTEGER));

/** Until when nobody need do anything: it is charged again then, by the shop's rule or by its line. */
const chargedAgain = ({ due }: Shelved): number | undefined =>
  due.find(({ want }) => want === 'recharge')?.by;

/** Thick up to its next charge, thin on to where it may come to its line, frayed up to where it will have. */
function Strand({ one, scale, now, y }: { one: Shelved; scale: TimeScale; now: number; y: number }) {
  const { prediction, place } = one;
  const from = xOf(scale, now);
  if (place?.kind === 'maintainer')
    return (
      <path
        d={cordPath(scale, from, scale.width, y, SWAY)}
        className="fill-none stroke-verdigris"
        strokeWidth={5}
      />
    );
  if (!prediction) return null;
  const { early, likely, late } = prediction.recharge;
  const [charge, sure, open, end] = [chargedAgain(one), early, likely, late].map((at) =>
    shown(scale, at),
  ) as [number, number, number, number];
  const pieces: readonly (readonly [from: number, to: number, width: number, dashes?: string])[] = [
    [from, Math.min(charge, sure), 8],
    [Math.max(from, Math.min(charge, sure)), sure, 2.5],
    [Math.max(from, sure), open, 2.5, '7 5'],
    [Math.max(from, open), end, 2, '1 6'],
  ];
  return (
    <g className="fill-none stroke-cork" strokeLinecap="round">
      {pieces
        .filter(([begins, ends]) => ends > begins)
        .map(([begins, ends, width, dashes]) => (
          <path
            key={`${width} ${dashes ?? ''} ${begins}`}
            d={cordPath(scale, begins, ends, y, SWAY)}
            strokeWidth={width}
            {...(dashes === undefined ? {} : { strokeDasharray: dashes })}
          />
        ))}
    </g>
  );
}

export function Fuse({ one, scale, now, height, isAlarm, said }: FuseProps) {
  const y = height / 2;
  const from = xOf(scale, now);
  const due = one.due[0]?.by;
  const harm = one.prediction?.harm.likely;
  const dueX = due === undefined || due <= now ? undefined : xOf(scale, due);
  const harmX = harm === undefined || harm <= now ? undefined : xOf(scale, harm);
  return (
    <svg width={scale.width} height={height} role="img" aria-label={said} className="block">
      <path d={`M${from} 0V${height}`} className="stroke-ember" strokeWidth={1.5} strokeDasharray="2 4" />
      <Strand one={one} scale={scale} now={now} y={y} />
      {harmX !== undefined && harmX < scale.width && (
        <path d={`M${harmX} ${y - 11}v22`} className="stroke-clay" strokeWidth={2}>
          <title>Sulfate begins to stay</title>
        </path>
      )}
      {dueX !== undefined && dueX < scale.width && (
        <g>
          <path d={`M${dueX} ${y - 18}V${y + 10}`} className="stroke-verdigris" strokeWidth={2} />
          <path d={`M${dueX} ${y - 18}h${FLAG}l-5 5 5 5h-${FLAG}z`} className="fill-verdigris" />
        </g>
      )}
      <circle
        cx={from}
        cy={y + swayAt(scale, from, SWAY)}
        r={EMBER * 1.8}
        className={isAlarm ? 'fill-ember/45' : 'fill-ember/25'}
      />
      <circle cx={from} cy={y + swayAt(scale, from, SWAY)} r={EMBER} className="fill-ember" />
      <circle cx={from} cy={y + swayAt(scale, from, SWAY)} r={EMBER * 0.39} className="fill-flare" />
    </svg>
  );
}
