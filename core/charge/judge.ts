/**
 * One judge of chargers, for first charges, every way of a recovery, What-if and the planner: whether a charger can give
 * a charge, and may. What it refuses it says in one sentence, the charger's name first.
 */
import { CONSTRUCTION, type Construction } from '../battery/construction.ts';
import { onSix } from '../battery/types.ts';
import type { Charger, ChargerMode } from './charger.ts';

export interface ChargeNeed {
  readonly construction: Construction;
  readonly cells: number;
  /** What is advised, and the most that may be set, A. */
  readonly askedA: number;
  readonly mostA: number;
  /** At the posts, at 25 °C, V. */
  readonly ceilingV: number;
  /** What the charger would see by the newest reading, the battery or the donor it stands on, V; undefined before one. */
  readonly standsV: number | undefined;
  readonly current: 'steady' | 'pulsed' | 'either';
  /** Whether it is to be full at the end: then the voltage must reach it. */
  readonly fills: boolean;
  /** Whether somebody looks at it often enough to switch off what nothing else does. */
  readonly isWatched: boolean;
  /** Whether one that only keeps a battery will do. */
  readonly mayTrickle?: boolean;
}

/** Below this share of what is asked a charger only keeps a battery, it does not charge it. */
const TRICKLE_SHARE = 0.4;
/** A knob's own coarseness. */
const KNOB_SHARE = 1.05;
/** A meter and a regulator may differ by this, V a cell. */
const METER_CELL_V = 0.05;
const CELL_V = 2;

export const MODE_NAMES: Readonly<Record<ChargerMode, string>> = {
  agm: CONSTRUCTION.agm.programme,
  flooded: CONSTRUCTION.flooded.programme,
  gel: CONSTRUCTION.gel.programme,
  maintain: 'maintenance',
};

export const ampsText = (value: number): string =>
  `${value < 1 ? value.toFixed(2) : Number(value.toFixed(1))} A`;
const voltsText = (value: number): string => `${value.toFixed(1)} V`;

type Rule = (charger: Charger, need: ChargeNeed) => string | undefined;

/** A supply is told its volts, whatever stands on it; all else is made for so many cells. */
const isTold = ({ kind }: Charger): boolean => kind === 'programmable';
const mostVolts = (charger: Charger, { cells }: ChargeNeed): number =>
  isTold(charger) ? charger.mostV : onSix(charger.mostV, { cells });

/** What a desulfating charger's own programme rises to, where it says so. */
const spikesTo = ({ pulses }: Charger, { cells }: ChargeNeed): number =>
  onSix(pulses?.reconditionV ?? 0, { cells });

const ofAnotherVoltage: Rule = (charger, { cells }) => {
  const has = cells * CELL_V;
  const { nominalV } = charger;
  return isTold(charger) || nominalV.includes(has)
    ? undefined
    : `is for ${nominalV.join(' and ')} V; this battery has ${has} V`;
};

const withoutItsProgramme: Rule = ({ modes }, { construction }) => {
  if (!modes || modes.includes(construction)) return undefined;
  return modes.length === 1 && modes[0] === 'gel'
    ? `has only a gel programme; that is never for ${CONSTRUCTION[construction].aBattery}`
    : `has no ${MODE_NAMES[construction]} programme`;
};

const ofAnotherCurrent: Rule = ({ kind }, { current }) => {
  if (current === 'steady' && kind === 'pulse') return 'gives pulses; this charge wants a steady current';
  return current === 'pulsed' && kind !== 'pulse' && kind !== 'programmable' ? 'cannot pulse' : undefined;
};

const tooMuchAtLeast: Rule = ({ leastA }, { mostA }) =>
  leastA > mostA * KNOB_SHARE
    ? `gives ${ampsText(leastA)} at its lowest; this charge takes ${ampsText(mostA)} at most`
    : undefined;

const tooLittle: Rule = ({ mostA }, { askedA, mayTrickle = false, fills }) =>
  mostA < askedA * TRICKLE_SHARE && !mayTrickle
    ? `gives at most ${ampsText(mostA)} where ${ampsText(askedA)} are wanted: it maintains${fills ? ', and never reaches proof of full' : ''}`
    : undefined;

const stopsShort: Rule = (charger, need) => {
  const { cells, fills, construction } = need;
  const most = mostVolts(charger, need);
  const full = onSix(CONSTRUCTION[construction].absorptionFromV, { cells });
  return fills && most < full - 1e-9
    ? `stops at ${voltsText(most)}; this battery needs ${voltsText(full)}`
    : undefined;
};

const goesBeyond: Rule = (charger, need) => {
  const { kind, modes } = charger;
  const { cells, ceilingV, isWatched, construction } = need;
  const byItself = kind === 'automatic' || kind === 'pulse' || (kind === 'taper' && !isWatched);
  const most = Math.max(mostVolts(charger, need), construction === 'gel' ? spikesTo(charger, need) : 0);
  // The highest voltage is that of its other programmes; the one for gel stops where gel must.
  const hasItsOwn = construction === 'gel' && (modes?.includes('gel') ?? false);
  // Gel bears its own most and nothing above it.
  const bears =
    construction === 'gel'
      ? Math.max(ceilingV, onSix(CONSTRUCTION.gel.absorptionToV, { cells }))
      : ceilingV + METER_CELL_V * cells;
  return byItself && !hasItsOwn && most > bears + 1e-9
    ? `goes to ${voltsText(most)} by itself; ${voltsText(ceilingV)} is the most here`
    : undefined;
};

const seesNothing: Rule = ({ startV }, { standsV, cells }) => {
  const from = onSix(startV, { cells });
  return standsV !== undefined && standsV < from
    ? `does not see a battery below ${voltsText(from)}; this one stands at ${voltsText(standsV)}`
    : undefined;
};

/** Nothing regulates a taper charger: what it pushes at the start must already be allowed. */
const pushesTooMuch: Rule = ({ taperOhm, openV }, { mostA, standsV, cells }) => {
  if (taperOhm === undefined || openV === undefined) return undefined;
  const six = onSix(1, { cells });
  const first = (openV - (standsV ?? CELL_V * cells) / six) / taperOhm;
  return first > mostA * KNOB_SHARE
    ? `would push ${ampsText(first)} at the start; this charge takes ${ampsText(mostA)} at most`
    : undefined;
};

const RULES: readonly Rule[] = [
  ofAnotherVoltage,
  withoutItsProgramme,
  ofAnotherCurrent,
  tooMuchAtLeast,
  tooLittle,
  stopsShort,
  goesBeyond,
  seesNothing,
  pushesTooMuch,
];

/** Why a charger is refused, in one sentence; undefined when it suits. */
export function chargerRefusal(charger: Charger, need: ChargeNeed): string | undefined {
  for (const rule of RULES) {
    const reason = rule(charger, need);
    if (reason !== undefined) return `${charger.name}: ${reason}.`;
  }
  return undefined;
}

/** The highest setting that does not exceed what may be set, A. */
export function settingFor({ mostA, detentsA }: Charger, setA: number): number {
  const most = Math.min(setA, mostA);
  return detentsA ? Math.max(...detentsA.filter((detent) => detent <= setA * KNOB_SHARE)) : most;
}
