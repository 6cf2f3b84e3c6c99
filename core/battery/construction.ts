/**
 * How a battery is built, and what follows from it for charging and judging: the one place that says so (handbook 1,
 * 2.3, 3.5 and 7). Figures are at 25 °C and for six cells where they are volts, until the label says otherwise.
 */

export type Construction = 'flooded' | 'agm' | 'gel';

export const CONSTRUCTIONS = ['flooded', 'agm', 'gel'] as const satisfies readonly Construction[];

export interface ConstructionFacts {
  /** At the head of a line: "Gel". */
  readonly name: string;
  /** Within a sentence, with its article: "a gel battery". */
  readonly aBattery: string;
  /** A charger's programme for it. */
  readonly programme: string;
  /** Acid held in mats or gel behind valves: closed for good, and no hydrometer goes in. */
  readonly isValveRegulated: boolean;
  /** Held while it fills, and the most and least that do fill it, V. */
  readonly absorptionV: number;
  readonly absorptionFromV: number;
  readonly absorptionToV: number;
  /** No charge follows the cold above this, V. */
  readonly coldMostV: number;
  /** A supply that wakes it goes no higher, V. */
  readonly wakeV: number;
  /** Keeps it full for months, V. */
  readonly floatV: number;
  readonly floatFromV: number;
  readonly floatToV: number;
  /** Most charging current, over capacity, where the label prints none. */
  readonly mostShare: number;
  /** Current of one that is full, over capacity: at most, flat at its voltage. */
  readonly tailShare: number;
  /** Of an Ah put in, stored. */
  readonly efficiency: number;
  /** Charging pauses above, °C. */
  readonly pauseC: number;
  /** Passes at rest beside a proof of full, and what a full one rests at, V. */
  readonly passV: number;
  readonly fullV: number;
  /** Charged again when it rests below this, V. */
  readonly rechargeV: number;
  /** Whether it is ever equalised. */
  readonly equalises: boolean;
}

const valveRegulated = {
  isValveRegulated: true,
  pauseC: 45,
  passV: 12.6,
  rechargeV: 12.6,
  equalises: false,
} as const;

export const CONSTRUCTION: Readonly<Record<Construction, ConstructionFacts>> = {
  flooded: {
    name: 'Flooded',
    aBattery: 'a flooded battery',
    programme: 'flooded',
    isValveRegulated: false,
    absorptionV: 14.6,
    absorptionFromV: 14.4,
    absorptionToV: 14.8,
    coldMostV: 15,
    wakeV: 16,
    floatV: 13.4,
    floatFromV: 13.2,
    floatToV: 13.5,
    mostShare: 0.5,
    tailShare: 1 / 25,
    efficiency: 0.85,
    pauseC: 50,
    passV: 12.4,
    fullV: 12.65,
    rechargeV: 12.45,
    equalises: true,
  },
  agm: {
    ...valveRegulated,
    name: 'AGM',
    aBattery: 'an AGM',
    programme: 'AGM',
    absorptionV: 14.7,
    absorptionFromV: 14.4,
    absorptionToV: 14.8,
    coldMostV: 15,
    wakeV: 15,
    floatV: 13.6,
    floatFromV: 13.5,
    floatToV: 13.8,
    mostShare: 0.5,
    tailShare: 0.01,
    efficiency: 0.92,
    fullV: 12.8,
  },
  gel: {
    ...valveRegulated,
    name: 'Gel',
    aBattery: 'a gel battery',
    programme: 'gel',
    absorptionV: 14.2,
    absorptionFromV: 14.1,
    absorptionToV: 14.4,
    coldMostV: 14.8,
    wakeV: 14.4,
    floatV: 13.65,
    floatFromV: 13.5,
    floatToV: 13.8,
    mostShare: 0.2,
    tailShare: 0.005,
    efficiency: 0.92,
    fullV: 12.85,
  },
};
