/** Which of the shop's chargers can give a first charge to this battery, how it is set, and why another cannot. */
import { constructionOf, type BatteryType } from '../battery/types.ts';
import type { HouseRules } from '../runsheet/houseRules.ts';
import { durationText } from '../schedule/clockText.ts';
import type { Charger, ChargerMode } from './chargers.ts';

export interface FirstChargeNeed {
  readonly type: BatteryType;
  /** The current advised, and the voltage to hold, at 25 °C. */
  readonly setA: number;
  readonly ceilingV: number;
  readonly rules: HouseRules;
  /** As the battery stands, V; undefined before it was read. */
  readonly restedV?: number;
}

export interface ChargerFit {
  readonly charger: Charger;
  /** What it is set to, A. */
  readonly amps: number;
  /** Knobs and lamps, a line each. */
  readonly instructions: readonly string[];
}

export type Fitting = { readonly fit: ChargerFit } | { readonly reason: string };

/** Below this share of the current advised a charger only keeps a battery, it does not fill it. */
const TRICKLE_SHARE = 0.4;
/** The least that fills either kind, V on six cells (handbook 7). */
const FILLS_FROM_V = 14.4;
/** A setting this much over is the knob's own coarseness. */
const KNOB_SHARE = 1.05;

const MODE_NAMES: Record<ChargerMode, string> = {
  agm: 'AGM',
  flooded: 'flooded',
  gel: 'gel',
  maintain: 'maintenance',
};

const amps = (value: number): string => `${value < 1 ? value.toFixed(2) : Number(value.toFixed(1))} A`;

/** The highest setting that does not exceed the current advised. */
function settingOf(charger: Charger, setA: number): number {
  const most = Math.min(setA, charger.mostA);
  if (!charger.detentsA) return most;
  return Math.max(...charger.detentsA.filter((detent) => detent <= setA * KNOB_SHARE));
}

function reasonAgainst(charger: Charger, need: FirstChargeNeed): string | undefined {
  const { type, setA, rules, restedV } = need;
  const { kind, leastA, mostA, mostV, startV, nominalV, modes } = charger;
  const scale = type.cells / 6;
  const mode = constructionOf(type.kind);
  if (!nominalV.includes(type.nominalV))
    return `is for ${nominalV.join(' and ')} V; this battery has ${type.nominalV} V`;
  if (kind === 'pulse') return 'gives pulses; a first charge wants a steady current';
  if (leastA > setA * KNOB_SHARE)
    return `gives ${amps(leastA)} at its lowest; this battery takes ${amps(setA)}`;
  if (modes && !modes.includes(mode))
    return modes.includes('gel') && modes.length === 1
      ? `has only a gel programme; that is never for ${mode === 'agm' ? 'an AGM' : 'a flooded battery'}`
      : `has no ${MODE_NAMES[mode]} programme`;
  if (mostV * scale < FILLS_FROM_V * scale - 1e-9)
    return `stops at ${(mostV * scale).toFixed(1)} V; this battery needs ${(FILLS_FROM_V * scale).toFixed(1)} V`;
  if (mostA < setA * TRICKLE_SHARE && rules.trickleFirst !== 'overnight')
    return `gives at most ${amps(mostA)}: it maintains, and never reaches proof of full`;
  if (restedV !== undefined && restedV < startV * scale)
    return `does not see a battery below ${(startV * scale).toFixed(1)} V`;
  if (kind === 'taper' && charger.openV !== undefined && charger.taperOhm !== undefined) {
    const first = (charger.openV - (restedV ?? 12 * scale) / scale) / charger.taperOhm;
    if (first > setA * KNOB_SHARE)
      return `would push ${amps(first)} at the start; this battery takes ${amps(setA)}`;
  }
  return undefined;
}

function instructionsFor(charger: Charger, need: FirstChargeNeed, setA: number): string[] {
  const { type, ceilingV } = need;
  switch (charger.kind) {
    case 'programmable':
      return [
        'Output off. Clips on: positive, then negative.',
        `Current limit ${amps(setA)}, voltage ${ceilingV.toFixed(1)} V.`,
        'Output on. It holds the current, then the voltage.',
      ];
    case 'bench':
      return [
        'Mains off. Clips on: positive, then negative.',
        `Current knob to ${amps(setA)}${charger.detentsA ? ', the detent at or under it' : ''}.`,
        `Mains on. The voltage is yours to watch: off at ${ceilingV.toFixed(1)} V unless it holds there by itself.`,
      ];
    case 'automatic':
      return [
        'Mains off. Clips on: positive, then negative.',
        `Programme ${MODE_NAMES[constructionOf(type.kind)]}${charger.detentsA && charger.detentsA.length > 1 ? `, switch at ${amps(setA)}` : ''}; never gel.`,
        'Mains on. Leave it until its lamp shows full, then record that it does.',
      ];
    case 'taper':
      return [
        'Mains off. Clips on: positive, then negative.',
        `Mains on. It begins near ${amps(setA)} and falls by itself; nothing is set.`,
        `Nothing switches it off: watch the clock and ${ceilingV.toFixed(1)} V.`,
      ];
    case 'pulse':
      return [];
  }
}

/**
 * How long on this charger, and when to look.
 * @param dueMin planned time on charge at its setting, min
 * @param lookEveryMin between looks, min
 */
export function timeInstruction(charger: Charger, dueMin: number, lookEveryMin: number): string {
  const time = durationText(dueMin * 60_000);
  const looks = `Look every ${lookEveryMin} min at volts, amps and warmth; the last three looks prove it full.`;
  return charger.kind === 'automatic'
    ? `About ${time}, or until its lamp shows full. ${looks}`
    : `About ${time} by the clock. ${looks}`;
}

/** Whether a charger can give this first charge: how, or why not. */
export function fitFirstCharge(charger: Charger, need: FirstChargeNeed): Fitting {
  const reason = reasonAgainst(charger, need);
  if (reason !== undefined) return { reason: `${charger.name}: ${reason}.` };
  const setA = settingOf(charger, need.setA);
  return { fit: { charger, amps: setA, instructions: instructionsFor(charger, need, setA) } };
}
