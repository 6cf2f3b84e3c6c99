/** The charges of a recovery, scaled to the battery: what to set, what ends them, what stops them (handbook 3.4). */
import { isOfEdition } from '../../entries/edition.ts';
import { CONSTRUCTION } from '../../../battery/construction.ts';
import { leastAh, onSix, type BatteryType } from '../../../battery/types.ts';
import { closedAgain } from './openedCells.ts';
import { BEFORE_IT_IS_ON, clipsOffAfter, coldCautions } from '../shared/charge.ts';
import type { Step, ChargeStep, StepContext, Treatment } from '../../definition/step.ts';

/** The battery as limits take it: a capacity that is only estimated counts at its least. */
const asLimited = ({ opened: { type } }: StepContext): BatteryType => ({
  ...type,
  capacityAh: leastAh(type),
});

const HOUR_MIN = 60;
const DAY_MIN = 24 * 60;

/** The highest voltage a waking battery may see; never compensated. */
function wakeCeilingV({ opened: { type } }: StepContext): number {
  return onSix(CONSTRUCTION[type.construction].wakeV, type);
}

const amps = (value: number): string => `${value.toFixed(2)} A`;
/** Warm as a valve-regulated battery may get; a recovery is never driven warmer, whatever its kind. */
const RECOVERY_HOT_C = CONSTRUCTION.agm.pauseC;

export const slowCharge = (context: StepContext): Treatment => {
  const { capacityAh } = asLimited(context);
  const setA = capacityAh / 20;
  return {
    setA,
    mostA: capacityAh / 10,
    ceilingV: context.threshold('ceilingV').value,
    dueMin: DAY_MIN,
    mostMin: DAY_MIN + 2 * HOUR_MIN,
    hotC: context.threshold('hotPauseC').value,
    isCompensated: true,
    end: { on: 'full', windowMin: 2 * HOUR_MIN },
    stops: ['over-voltage', 'runaway', 'dead-cell', 'short-heating', 'too-long'],
    working: [
      `C/20 = ${amps(setA)}, C/10 at most, to ${context.threshold('ceilingV').value.toFixed(1)} V; heat breaks plates that stood flat.`,
      `Done when it is proven full over 2 h${CONSTRUCTION[context.opened.type.construction].isValveRegulated ? `: ${amps(capacityAh * CONSTRUCTION[context.opened.type.construction].tailShare)} or less, flat` : ': the current flat, or density and voltage'}; after 24 h it ends whatever it reads.`,
    ],
    isAttended: false,
  };
};

export const supplyWake = (context: StepContext): Treatment => {
  const { capacityAh, cells, construction } = asLimited(context);
  const mostA = capacityAh / 20;
  // Older logs began at once with what it is to take in the end.
  const setA = isOfEdition(context.opened, 3) ? capacityAh / 50 : mostA;
  const accepts = onSix(CONSTRUCTION[construction].absorptionFromV, { cells });
  return {
    setA,
    mostA,
    ceilingV: wakeCeilingV(context),
    dueMin: 6 * HOUR_MIN,
    mostMin: 6 * HOUR_MIN,
    hotC: RECOVERY_HOT_C,
    isCompensated: false,
    end: { on: 'accepts', atA: mostA, belowV: accepts, fromV: onSix(10.5, { cells }) },
    stops: ['over-voltage', 'not-rising', 'short-heating', 'runaway', 'too-long'],
    working: [
      `Begin at C/50 = ${amps(capacityAh / 50)}; once it takes that, raise it, up to C/20 = ${amps(mostA)}. ${wakeCeilingV(context).toFixed(1)} V is the ceiling, whatever it takes.`,
      'The voltage leaps, then falls as it begins to take: that is waking.',
      `Done when it takes ${amps(mostA)} below ${accepts.toFixed(1)} V: then its two readings, then the slow charge.`,
    ],
    done: 'It takes its current: off, then its readings at 10 and 30 minutes.',
    isAttended: true,
  };
};

/** Share of capacity a donor's charger is set to. */
const DONOR_SHARE = 0.25;

/** Ten amperes is a setting for 40 Ah and up: a donor's charger is scaled to size, and to what its kind bears. */
export const donorHour = (context: StepContext): Treatment => {
  const { capacityAh, construction } = asLimited(context);
  const setA = Math.min(10, capacityAh * Math.min(DONOR_SHARE, CONSTRUCTION[construction].mostShare));
  return {
    setA,
    mostA: setA,
    ceilingV: context.threshold('ceilingV').value,
    dueMin: HOUR_MIN,
    mostMin: HOUR_MIN + 15,
    hotC: RECOVERY_HOT_C,
    isCompensated: true,
    end: { on: 'clock' },
    stops: ['over-voltage', 'short-heating', 'too-long'],
    working: [
      `The charger on the donor at ${amps(setA)}: not a trickle, not a boost.`,
      'One hour, then charger off, leads off, and only then the reading.',
    ],
    isAttended: true,
  };
};

export const forcedStart = (context: StepContext): Treatment => {
  const { capacityAh, cells } = asLimited(context);
  const setA = capacityAh / 20;
  const ends = onSix(12, { cells });
  return {
    setA,
    mostA: capacityAh / 10,
    ceilingV: context.threshold('ceilingV').value,
    dueMin: 2 * HOUR_MIN,
    mostMin: 3 * HOUR_MIN,
    hotC: RECOVERY_HOT_C,
    isCompensated: true,
    end: { on: 'voltage', volts: ends },
    stops: ['over-voltage', 'not-rising', 'short-heating', 'too-long'],
    working: [
      `Manual charger, ${amps(setA)} to ${amps(capacityAh / 10)}, until it holds ${onSix(10.5, { cells }).toFixed(2)} V. Never left alone.`,
      `On charge it reads higher than it holds: ${ends.toFixed(1)} V on the meter is time to stop and look.`,
    ],
    done: `${ends.toFixed(1)} V on the meter: off, then its readings at 10 and 30 minutes.`,
    isAttended: true,
  };
};

export const highBite = (context: StepContext): Treatment => {
  const { capacityAh } = asLimited(context);
  const setA = capacityAh / 4;
  return {
    setA,
    mostA: setA,
    ceilingV: onSix(15, context.opened.type),
    dueMin: 15,
    mostMin: 20,
    hotC: RECOVERY_HOT_C,
    isCompensated: false,
    end: { on: 'clock' },
    stops: ['over-voltage', 'short-heating', 'too-long'],
    working: [`High setting, ${amps(setA)} at most, for 15 minutes and no longer.`],
    isAttended: true,
  };
};

export const lowAfterHigh = (context: StepContext): Treatment => {
  const { capacityAh } = asLimited(context);
  const setA = Math.min(5, capacityAh / 10);
  return {
    ...slowCharge(context),
    setA,
    mostA: setA,
    working: [`Caps laid on, ${amps(setA)} at most, 2 A overnight.`, ...slowCharge(context).working.slice(1)],
  };
};

export const constantCurrent = (context: StepContext): Treatment => {
  const { capacityAh, cells } = asLimited(context);
  const setA = capacityAh / 10;
  const ends = onSix(14.5, { cells });
  return {
    setA,
    mostA: capacityAh / 5,
    ceilingV: ends,
    dueMin: 12 * HOUR_MIN,
    mostMin: 12 * HOUR_MIN,
    hotC: context.threshold('hotPauseC').value,
    isCompensated: true,
    end: { on: 'voltage', volts: ends - 0.02 },
    stops: ['over-voltage', 'dead-cell', 'short-heating', 'too-long'],
    working: [
      `C/10 = ${amps(setA)}, a fifth of capacity at most, up to 12 h; volts and warmth every 2 h.`,
      `Ends at ${ends.toFixed(2)} V, hot, or by the clock.`,
    ],
    done: `${ends.toFixed(2)} V reached, which is not full: off, read it rested, then the slow charge goes on.`,
    isAttended: false,
  };
};

export const longSoak = (context: StepContext): Treatment => {
  const { capacityAh } = asLimited(context);
  const setA = capacityAh / 10;
  const earlier = context.routes.filter(({ route }) => route === 'long-soak').length;
  const volts = onSix(earlier > 1 ? 14.9 : 14.7, context.opened.type);
  return {
    setA,
    mostA: capacityAh / 5,
    ceilingV: volts,
    dueMin: 16 * HOUR_MIN,
    mostMin: 48 * HOUR_MIN,
    hotC: RECOVERY_HOT_C,
    isCompensated: true,
    // Older logs went on until it was proven full.
    end: { on: isOfEdition(context.opened, 4) ? 'flat' : 'full', windowMin: 4 * HOUR_MIN },
    stops: ['over-voltage', 'runaway', 'dead-cell', 'short-heating', 'too-long'],
    working: [
      `${volts.toFixed(1)} V at 25 °C, ${amps(setA)}, C/5 at most, 16 to 48 h.`,
      'Ends with the current flat for 4 h. Above 45 °C, or with the current rising at the same voltage, it is off at once.',
    ],
    done: 'Its current is flat: off, days of rest, then the reading says what the soak did.',
    isAttended: false,
  };
};

export const pulses = (context: StepContext): Treatment => {
  const { capacityAh } = asLimited(context);
  const setA = capacityAh / 20;
  return {
    setA,
    mostA: capacityAh / 10,
    ceilingV: onSix(14.4, context.opened.type),
    dueMin: 7 * DAY_MIN,
    mostMin: 14 * DAY_MIN,
    hotC: RECOVERY_HOT_C,
    // A gel bears no spike above its ceiling, however cold.
    isCompensated: context.opened.type.construction !== 'gel',
    end: { on: 'clock' },
    stops: ['over-voltage', 'runaway', 'dead-cell', 'short-heating', 'too-long'],
    working: [
      'A week of pulses, or the charger’s own programme, then a test. Swings of about ±0.3 V around 14 V and some warmth belong to it.',
      'What pulses add over their average current is not proven: two tests without gain end it.',
    ],
    isPulsed: true,
    isAttended: false,
  };
};

export const overVoltage = (context: StepContext): Treatment => {
  const { capacityAh } = asLimited(context);
  const setA = capacityAh / 25;
  return {
    setA,
    mostA: capacityAh / 20,
    ceilingV: onSix(15.8, context.opened.type),
    dueMin: 3 * HOUR_MIN,
    mostMin: 4 * HOUR_MIN,
    hotC: RECOVERY_HOT_C,
    isCompensated: false,
    end: isOfEdition(context.opened, 4) ? { on: 'densities' } : { on: 'clock' },
    stops: ['over-voltage', 'dead-cell', 'short-heating', 'too-long'],
    working: [
      `C/25 = ${amps(setA)} to ${onSix(15.8, context.opened.type).toFixed(1)} V; density of every cell each hour until three agree.`,
      '45 °C, four hours, or a low level end it.',
    ],
    done: 'Three hourly densities of every cell are alike: off.',
    asksCells: true,
    isAttended: true,
  };
};

/** A last bite, for cells that are the last to wake or for all once they bubble (handbook 3.4: 10–15 min more). */
export const lastBite = (context: StepContext): Treatment => ({
  ...highBite(context),
  dueMin: 10,
  mostMin: 15,
  working: [
    '10 minutes more, 15 at most: look and feel while it runs, switch off at the first cell that heats.',
  ],
});

/** A few hours at the voltage where every cell gasses: gas is what stirs the acid (handbook 4 and 3.4). */
export const chargeToGassing = (context: StepContext): Treatment => {
  const { capacityAh } = asLimited(context);
  const setA = capacityAh / 20;
  const ceilingV = context.threshold('ceilingV').value;
  return {
    setA,
    mostA: capacityAh / 10,
    ceilingV,
    dueMin: 2 * HOUR_MIN,
    mostMin: 4 * HOUR_MIN,
    hotC: context.threshold('hotPauseC').value,
    isCompensated: true,
    end: { on: 'clock' },
    stops: ['over-voltage', 'runaway', 'dead-cell', 'short-heating', 'too-long'],
    working: [
      `C/20 = ${amps(setA)} at ${ceilingV.toFixed(1)} V for two hours: every cell gasses, and the gas stirs its acid.`,
      'Then the density of every cell. Three such rounds alike within 0.010, and the acid is level.',
    ],
    isAttended: false,
  };
};

/** A charge of a route, with what all of them share; cautions of its own stand before theirs. */
export const treat = (
  id: string,
  title: string,
  lookEveryMin: number,
  treatment: (context: StepContext) => Treatment,
  { claims, cautions = [] }: Partial<Pick<ChargeStep, 'claims' | 'cautions'>> = {},
): ChargeStep => ({
  kind: 'charge',
  id,
  title,
  detail: (context) =>
    treatment(context).isAttended
      ? 'Stay with it. Limits and stop rules are armed.'
      : 'Limits and stop rules are armed.',
  claims: claims ?? BEFORE_IT_IS_ON,
  lookEveryMin,
  treatment,
  handsMin: 3,
  overdueAfterMin: 15,
  cautions: [...cautions, 'gas', 'gasInside', 'clipsFirst'],
  cautionsFor: coldCautions,
  cautionsWhileOn: [...cautions, 'gas', 'gasInside', 'rottenEgg'],
});

/** Off after a charge, gas gone, clips off, opened cells to the line and closed; the steps are named after `id`. */
export const off = (id: string, charge = id): readonly Step[] => [
  ...clipsOffAfter(charge, `${id}-gas`, `${id}-clips`),
  ...closedAgain(id),
];
