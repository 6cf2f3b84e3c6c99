/** Readings of a battery that is brought back: every kind, what it takes of hands, and what it asks of a candidate. */
import type { Bubbles, Level } from './modelView.ts';

interface Placed {
  /** Passages that came before a reading; none where it is left out. */
  readonly stage?: number;
  /** Taken so many minutes into the charge that comes next, the charger on; at rest where it is left out. */
  readonly midway?: number;
}

export interface FloatedCell {
  readonly cell: number;
  readonly density: number;
  readonly tempC?: number;
}

export type Reading = Placed & Read;

type Read =
  /** Rested four hours or more, or with surface charge still on it. */
  | { readonly kind: 'ocv'; readonly volts: number; readonly isRested: boolean }
  /** The lowest under load; and where they were seen, how it stood a second in and a minute after the load came off. */
  | {
      readonly kind: 'load';
      readonly amps: number;
      readonly seconds: number;
      readonly volts: number;
      readonly firstV?: number;
      readonly backV?: number;
      /** Half of an interval, where the tester shows colours, V. */
      readonly within?: number;
    }
  | { readonly kind: 'tester'; readonly amps: number }
  /** Between the posts, by a tester that shows it. */
  | { readonly kind: 'resistance'; readonly ohm: number }
  /** By a probe in or on each cell. */
  | { readonly kind: 'warmth'; readonly cells: readonly { readonly cell: number; readonly tempC: number }[] }
  /** As the hydrometer floats, g/cm³, in acid of this warmth where it was taken; meaningless until water added has mixed. */
  | {
      readonly kind: 'density';
      readonly cell: number;
      readonly density: number;
      readonly tempC?: number;
      readonly isMixed?: boolean;
      /** Half of an interval, where its hydrometer shows bands or balls, g/cm³. */
      readonly within?: number;
      /** Cells floated before it at the same look: what the instrument and the model are off by, they share. */
      readonly beside?: readonly FloatedCell[];
    }
  | { readonly kind: 'level'; readonly cell: number; readonly level: Level }
  /** Dip probes, one more than cells. */
  | { readonly kind: 'dips'; readonly volts: readonly number[] }
  /** What it takes after two minutes at a voltage held. */
  | { readonly kind: 'acceptance'; readonly volts: number; readonly amps: number }
  | { readonly kind: 'bubbles'; readonly cell: number; readonly bubbles: Bubbles }
  /** A charger's own view: it does not start on it, never gets past its first stage or trips, or comes to its end. */
  | { readonly kind: 'charger'; readonly view: ChargerView; readonly startV: number }
  /** Minutes it gave a current until 1.75 V a cell: the one true measure of capacity. */
  | { readonly kind: 'reserve'; readonly amps: number; readonly minutes: number }
  /** So many minutes into a capacity test that is still running. */
  | {
      readonly kind: 'drain';
      readonly amps: number;
      readonly minute: number;
      readonly volts: number;
      /** The look before it, which shares whatever the model's level is off by: the fall between them tells. */
      readonly before?: { readonly minute: number; readonly volts: number };
    }
  /** Volts lost over the passage of rest that lies behind it, which share whatever the model is off by. */
  | { readonly kind: 'hold'; readonly volts: number }
  /** Lowest voltage while it cranked, in the vehicle. */
  | { readonly kind: 'crank'; readonly volts: number }
  /** On a scale, lighter than such a battery is by so much: water that is gone. */
  | { readonly kind: 'mass'; readonly deficitG: number }
  /** On charge, so long after the passage it falls in began. */
  | {
      readonly kind: 'look';
      readonly minute: number;
      readonly volts: number;
      readonly amps: number;
      readonly tempC: number;
    };

export type ChargerView = 'refuses' | 'stuck' | 'finishes';

export type ReadingKind = Reading['kind'];

/** Minutes of hands each takes, cleaning up included (practice). */
export const MINUTES: Record<ReadingKind, number> = {
  ocv: 1,
  load: 3,
  tester: 2,
  resistance: 2,
  warmth: 3,
  density: 1,
  level: 0.5,
  dips: 6,
  acceptance: 5,
  bubbles: 1,
  look: 1,
  charger: 1,
  crank: 6,
  mass: 2,
  reserve: 8,
  drain: 1,
  hold: 1,
};

/** Of cells floated within this of each other it is one look, min. */
const ONE_LOOK_MIN = 5;

/** Whether two readings were taken at one standing of the battery, or on one charge: of cells, at one look into them. */
export const isOneLook = (one: Reading, other: Reading): boolean =>
  one.stage === other.stage && Math.abs((one.midway ?? 0) - (other.midway ?? 0)) <= ONE_LOOK_MIN;

/** Each density with those of the same look that were read before it. */
export function besideEachOther(readings: readonly Reading[]): Reading[] {
  return readings.map((reading, index) => {
    if (reading.kind !== 'density') return reading;
    const beside = readings.slice(0, index).flatMap((one): FloatedCell[] =>
      one.kind === 'density' && isOneLook(one, reading) && one.isMixed === reading.isMixed
        ? [
            {
              cell: one.cell,
              density: one.density,
              ...(one.tempC === undefined ? {} : { tempC: one.tempC }),
            },
          ]
        : [],
    );
    return beside.length > 0 ? { ...reading, beside } : reading;
  });
}

/** Minutes into a charge that is on; undefined of a reading at rest. */
export const onChargeMin = (reading: Reading): number | undefined =>
  reading.kind === 'look' ? reading.minute : reading.midway;

/** Whether a reading wants a simulation of its own: those are asked last. */
export const isDear = ({ kind, stage = 0, midway }: Reading): boolean =>
  kind === 'acceptance' ||
  kind === 'load' ||
  kind === 'crank' ||
  kind === 'reserve' ||
  kind === 'drain' ||
  kind === 'look' ||
  midway !== undefined ||
  stage > 0;

/** Supply of the acceptance check, as a share of capacity. */
export const ACCEPTANCE_MOST = 1 / 5;
