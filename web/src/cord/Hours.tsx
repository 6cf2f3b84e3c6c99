import { hourText } from './hourText.ts';
import { axisHours, xOf, type TimeScale } from './scale.ts';

/** Whole hours, or days, under a single cord, none cut off at its ends. */
export function Hours({ scale, y, timeZone }: { scale: TimeScale; y: number; timeZone: string }) {
  return axisHours(scale, timeZone)
    .filter((at) => xOf(scale, at) > 18 && xOf(scale, at) < scale.width - 18)
    .map((at) => (
      <text key={at} x={xOf(scale, at)} y={y} textAnchor="middle" className="reading fill-soft text-[11px]">
        {hourText(at, timeZone)}
      </text>
    ));
}
