/** Checks a shop can make of a battery that stands there: what each would show, and what its instrument makes of it. */
import { read } from './modelView.ts';
import { waterLostG } from '../model/show.ts';
import { ACCEPTANCE_MOST, besideEachOther, type FloatedCell, type Reading } from './readings.ts';
import type { Shown } from './shown.ts';
import type { Setting } from '../candidate/traits.ts';

export const CHECKS = ['load', 'tester', 'acceptance', 'mass', 'density', 'level', 'dips'] as const;
export type Check = (typeof CHECKS)[number];

/** Checks that want the caps off. */
export const OPENED: readonly Check[] = ['density', 'level', 'dips'];

/** A load test draws three times the capacity for so long, where the house has no other (handbook 3.2). */
const LOAD_PER_AH = 3;
const LOAD_S = 15;
/** The voltage held for the acceptance check, V a cell. */
const HELD_CELL_V = 2.4;

/** What a check shows of a candidate, exact. */
export function exactly(check: Check, shown: Shown, { rating, load }: Setting): Reading[] {
  const { capacityAh, cells } = rating;
  const each = Array.from({ length: cells }, (_, index) => index + 1);
  switch (check) {
    case 'load': {
      const amps = load?.currentA ?? LOAD_PER_AH * capacityAh;
      const seconds = load?.seconds ?? LOAD_S;
      const { firstV, lowestV, backV } = shown.load(amps, seconds);
      return [{ kind: 'load', amps, seconds, volts: lowestV, firstV, backV }];
    }
    case 'tester':
      return [{ kind: 'tester', amps: shown.testerA() }];
    case 'acceptance': {
      const volts = HELD_CELL_V * cells;
      return [{ kind: 'acceptance', volts, amps: shown.acceptedA(volts, capacityAh * ACCEPTANCE_MOST) }];
    }
    case 'mass':
      return [{ kind: 'mass', deficitG: waterLostG(shown.cells) }];
    case 'density':
      return besideEachOther(each.map((cell) => ({ kind: 'density', cell, density: shown.density(cell) })));
    case 'level':
      return each.map((cell) => ({ kind: 'level', cell, level: shown.level(cell) }));
    case 'dips':
      return [{ kind: 'dips', volts: shown.dips() }];
  }
}

/**
 * A reading as its instrument shows it, which knows no current below none; what is only seen is seen.
 * @param seed the same seed errs the same
 */
export function throughInstrument(reading: Reading, seed: string): Reading {
  type Instrument = Parameters<typeof read>[1];
  const at = (value: number, instrument: Instrument, what: string): number =>
    read(value, instrument, `${seed} ${what}`);
  const some = (value: number, instrument: Instrument, what: string): number =>
    Math.max(0, at(value, instrument, what));
  switch (reading.kind) {
    case 'ocv':
      return { ...reading, volts: at(reading.volts, 'meterV', 'ocv') };
    case 'load': {
      const { firstV, backV } = reading;
      return {
        ...reading,
        volts: some(reading.volts, 'loadV', 'load lowest'),
        ...(firstV === undefined ? {} : { firstV: some(firstV, 'loadV', 'load first') }),
        ...(backV === undefined ? {} : { backV: some(backV, 'loadV', 'load back') }),
      };
    }
    case 'tester':
      return { ...reading, amps: some(reading.amps, 'conductanceA', 'tester') };
    case 'acceptance':
      return { ...reading, amps: some(reading.amps, 'shuntA', 'takes') };
    case 'density': {
      const float = <T extends FloatedCell>(one: T): T => ({
        ...one,
        density: at(one.density, 'hydrometer', `density ${one.cell}`),
      });
      return reading.beside ? { ...float(reading), beside: reading.beside.map(float) } : float(reading);
    }
    case 'dips':
      return { ...reading, volts: reading.volts.map((volts, index) => at(volts, 'dipV', `dip ${index}`)) };
    case 'look':
      return {
        ...reading,
        volts: at(reading.volts, 'meterV', `V ${reading.minute}`),
        amps: some(reading.amps, 'shuntA', `A ${reading.minute}`),
        tempC: at(reading.tempC, 'thermometerC', `C ${reading.minute}`),
      };
    case 'hold':
      return { ...reading, volts: at(at(reading.volts, 'meterV', 'before'), 'meterV', 'after') };
    case 'reserve':
      return { ...reading, minutes: some(reading.minutes, 'analyserMin', 'reserve') };
    case 'drain':
      return { ...reading, volts: at(reading.volts, 'meterV', `drain ${reading.minute}`) };
    case 'resistance':
      return { ...reading, ohm: some(reading.ohm, 'conductanceA', 'resistance') };
    case 'warmth':
      return {
        ...reading,
        cells: reading.cells.map(({ cell, tempC }) => ({
          cell,
          tempC: at(tempC, 'thermometerC', `warmth ${cell}`),
        })),
      };
    case 'mass':
      return { ...reading, deficitG: at(reading.deficitG, 'scaleG', 'mass') };
    case 'crank':
      return { ...reading, volts: some(reading.volts, 'loadV', 'crank') };
    case 'level':
    case 'bubbles':
    case 'charger':
      return reading;
  }
}
