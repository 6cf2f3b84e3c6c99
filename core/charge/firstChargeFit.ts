/** Which of the shop's chargers can give a first charge to this battery, how it is set, and why another cannot. */
import type { BatteryType } from '../battery/types.ts';
import type { HouseRules } from '../rules/houseRules.ts';
import { durationText } from '../clock/clockText.ts';
import type { Charger } from './charger.ts';
import { ampsText as amps, MODE_NAMES, chargerRefusal, settingFor, type ChargeNeed } from './judge.ts';

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

function needOf({ type, setA, ceilingV, rules, restedV }: FirstChargeNeed): ChargeNeed {
  return {
    construction: type.construction,
    cells: type.cells,
    askedA: setA,
    mostA: setA,
    ceilingV,
    standsV: restedV,
    current: 'steady',
    fills: true,
    // Every hour, and what nothing switches off is switched off before closing.
    isWatched: true,
    mayTrickle: rules.trickleFirst === 'overnight',
  };
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
        `Programme ${MODE_NAMES[type.construction]}${charger.detentsA && charger.detentsA.length > 1 ? `, switch at ${amps(setA)}` : ''}${need.type.construction === 'gel' ? '; no other' : '; never gel'}.`,
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
  const reason = chargerRefusal(charger, needOf(need));
  if (reason !== undefined) return { reason };
  const setA = settingFor(charger, need.setA);
  return { fit: { charger, amps: setA, instructions: instructionsFor(charger, need, setA) } };
}
