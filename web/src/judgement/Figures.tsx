/** What is believed of charge, capacity, cranking, resistance and water: the middle, and where eight of ten lie. */
import type { Interval, Summary } from '@cork-ember/core/belief/figures.ts';
import { here, isOtherwiseHere } from '../region/shopRegion.ts';
import { card } from '../ui/card.ts';

interface Shown {
  readonly id: keyof Summary['figures'];
  readonly name: string;
  readonly unit: string;
  readonly scale: number;
  readonly decimals: number;
  /** Of the bar, in the unit shown. */
  readonly most: (figures: Summary['figures']) => number;
  /** What is said where nothing of it is left. */
  readonly none?: string;
}

const atLeast = (most: number, value: number): number => Math.max(most, value);
const SHOWN: readonly Shown[] = [
  { id: 'charge', name: 'Charge now', unit: '%', scale: 100, decimals: 0, most: () => 100 },
  {
    id: 'capacity',
    name: 'Capacity once charged',
    unit: '% of rating',
    scale: 100,
    decimals: 0,
    most: () => 110,
  },
  {
    id: 'cranking',
    name: 'Cranking once charged',
    unit: '% of rating',
    scale: 100,
    decimals: 0,
    most: () => 110,
  },
  {
    id: 'ohm',
    name: 'Resistance now',
    unit: 'mΩ',
    scale: 1000,
    decimals: 1,
    most: ({ ohm }) => atLeast(10, ohm.high * 1200),
  },
  {
    id: 'waterG',
    name: 'Water missing',
    unit: 'g',
    scale: 1,
    decimals: 0,
    most: ({ waterG }) => atLeast(100, waterG.high * 1.2),
  },
  {
    id: 'lifeYears',
    name: 'Serves in its duty for',
    unit: 'years',
    scale: 1,
    decimals: 0,
    most: ({ lifeYears }) => atLeast(10, lifeYears.high),
    none: 'no more',
  },
];

/** An open cell has a resistance no bar can show. */
const BEYOND = 1e5;

/** In the shop's unit: it stands beside its unit, not in one text with it. */
function text({ low, middle, high }: Interval, { scale, decimals, unit }: Shown): string {
  const figure = (value: number): string =>
    value * scale > BEYOND
      ? '∞'
      : here(value * scale, unit).toFixed(isOtherwiseHere(unit) ? decimals + 1 : decimals);
  return `${figure(middle)} (${figure(low)} to ${figure(high)})`;
}

/** Beside a step: what decides, without what explains. */
const BRIEF = 3;

/** Of the bar's own ink, so that it stands behind what is believed now without a colour of its own. */
const HATCHED =
  'bg-[repeating-linear-gradient(135deg,var(--soft)_0_1px,transparent_1px_6px)] opacity-60 ring-1 ring-inset ring-line';

interface BandProps {
  readonly interval: Interval;
  /** Of the bar, %. */
  readonly share: (value: number) => number;
  readonly look: string;
}

function Band({ interval: { low, high }, share, look }: BandProps) {
  return (
    <span
      className={`absolute inset-y-0 rounded-full ${look}`}
      style={{ left: `${share(low)}%`, width: `${Math.max(1, share(high) - share(low))}%` }}
    />
  );
}

interface FiguresProps {
  readonly figures: Summary['figures'];
  /** Before anything was read. */
  readonly atFirst?: Summary['figures'] | undefined;
  readonly isBrief?: boolean;
}

export function Figures({ figures, atFirst, isBrief = false }: FiguresProps) {
  return (
    <section aria-labelledby="figures-title" className={isBrief ? '' : card({ pad: 'wide' })}>
      <h2 id="figures-title" className={isBrief ? 'font-bold' : 'text-lg font-bold'}>
        What is in it
      </h2>
      {!isBrief && (
        <p className="text-sm text-soft">
          The middle, and the range in which eight of ten such batteries lie
          {atFirst && '; hatched, where they lay before anything was read'}.
        </p>
      )}
      <dl className={isBrief ? 'mt-1 space-y-2' : 'mt-3 space-y-3'}>
        {SHOWN.slice(0, isBrief ? BRIEF : undefined).map((one) => {
          const interval = figures[one.id];
          const share = (value: number): number =>
            Math.min(100, Math.max(0, ((value * one.scale) / one.most(figures)) * 100));
          return (
            <div key={one.id}>
              <dt className="flex flex-wrap justify-between gap-x-3">
                <span className={isBrief ? '' : 'font-medium'}>{one.name}</span>
                <span className="reading">
                  {one.none !== undefined && interval.high < 0.5 ? (
                    one.none
                  ) : (
                    <>
                      {text(interval, one)} <span className="text-soft">{one.unit}</span>
                    </>
                  )}
                </span>
              </dt>
              <dd aria-hidden className={`relative mt-1 rounded-full bg-rail ${isBrief ? 'h-2' : 'h-3'}`}>
                {atFirst && <Band {...{ share }} interval={atFirst[one.id]} look={HATCHED} />}
                <Band {...{ share }} interval={interval} look="bg-cork" />
                <span
                  className="absolute -inset-y-0.5 w-1 rounded bg-char"
                  style={{ left: `calc(${share(interval.middle)}% - 2px)` }}
                />
              </dd>
            </div>
          );
        })}
      </dl>
    </section>
  );
}
