/** The charge itself and what comes right after it, the same for every kind but in words. */
import { CONSTRUCTION } from '../../../battery/construction.ts';
import { temperatureField, voltageField } from '../../definition/fields.ts';
import { onSix } from '../../../battery/types.ts';
import type { CautionId } from '../../../rules/cautions.ts';
import { isOfEdition } from '../../entries/edition.ts';
import type { ChargeStep, Denial, Step, StepContext } from '../../definition/step.ts';

/** A battery read this cold may have frozen where its acid is thin, °C (freezing table of handbook 7: 1.10 at −8). */
const COLD_C = 0;

/** Before a cold charge: the last warmth read, or nothing where it was not. */
export function coldCautions({ lastTempC }: StepContext): readonly CautionId[] {
  const tempC = lastTempC();
  return tempC !== undefined && tempC <= COLD_C ? ['coldCharge'] : [];
}

/** What the shop's school says of a first charge, before what the kind says. */
function schoolText({ round, opened: { rules, type } }: StepContext): string {
  if (round > 1) return '';
  switch (rules.firstCharge) {
    case 'automatic':
      return `House rule: an automatic charger, its ${CONSTRUCTION[type.construction].programme} programme, until it shows full. `;
    case 'label':
      return 'House rule: the label’s current for the label’s time. ';
    case 'low':
      return 'House rule: 1 to 2 A, overnight. ';
    case 'fast':
      return 'House rule: shop fast charge. Stay with it. ';
    default:
      return '';
  }
}

/** Affirmed before any charger goes on. */
export const BEFORE_IT_IS_ON: readonly string[] = [
  'Clips on, polarity checked by eye and by meter',
  'Doors open, no spark or flame',
  'Charger on last',
];

/** The first or a further charge. @param title of one that is no first charge */
export const chargeStep = (detail: (context: StepContext) => string, title = 'First charge'): ChargeStep => ({
  kind: 'charge',
  id: 'charge',
  title,
  detail: (context) => `${schoolText(context)}${detail(context)}`,
  claims: BEFORE_IT_IS_ON,
  lookEveryMin: 60,
  handsMin: 3,
  overdueAfterMin: 30,
  cautions: ['gas', 'clipsFirst'],
  cautionsFor: coldCautions,
  cautionsWhileOn: ['gas', 'rottenEgg'],
  shows: ['chargeCurrentA', 'ceilingV', 'fullTailMin', 'hotPauseC', 'hotResumeC'],
});

/**
 * Charger off, gas gone, clips off.
 * @param charge the step it follows; the two steps are named by `gas` and `clips`
 */
export const clipsOffAfter = (charge: string, gas: string, clips: string): readonly Step[] => [
  {
    kind: 'dwell',
    id: gas,
    title: 'Let the gas clear',
    detail: () => 'Charger is off at the mains. Nothing is touched until the gas has gone.',
    minimum: 'gasWaitMin',
    clockStart: () => charge,
    canOverride: false,
    handsMin: 0,
    overdueAfterMin: 60,
    cautions: ['chargerOffFirst'],
    shows: ['gasWaitMin'],
  },
  {
    kind: 'act',
    id: clips,
    title: 'Take the clips off',
    detail: () => 'Negative first, positive last. The charger has been off at the mains.',
    doneLabel: 'Clips are off',
    partsIt: true,
    handsMin: 1,
    overdueAfterMin: 60,
    cautions: ['chargerOffFirst'],
  },
];
export const afterCharge = clipsOffAfter('charge', 'gas-wait', 'disconnect');

/** Rested below this on six cells no state of charge explains it: one cell gives nothing (handbook 3.4). */
const DEAD_CELL_V = 10.9;

/** What a low voltage means before the first charge, where it stands in the way. */
function lowWords(ocvV: number, wasFilledHere: boolean, context: StepContext): string | undefined {
  const suspect = context.threshold('soakSuspectV').value;
  // Older logs took every battery for one that was filled here.
  if (wasFilledHere || !isOfEdition(context.opened, 3))
    return ocvV < suspect
      ? `${ocvV.toFixed(2)} V is below ${suspect.toFixed(2)} V: suspect a cell filled short or dead. Read again, reject it, or charge it on your word.`
      : undefined;
  const dead = onSix(DEAD_CELL_V, context.opened.type);
  return ocvV < dead
    ? `${ocvV.toFixed(2)} V is below ${dead.toFixed(2)} V: deeper than one that only stood; suspect a dead cell. Read again, reject it, or charge it on your word.`
    : undefined;
}

/**
 * Voltage and warmth before the first charge.
 * @param wasFilledHere after a soak; otherwise as the battery came, and a low one is discharged
 */
export const readBeforeCharge = (detail: string, denials: readonly Denial[], wasFilledHere = true): Step => ({
  kind: 'measure',
  id: 'ocv-soak',
  title: 'Read voltage and warmth',
  detail: () => detail,
  fields: [
    voltageField({ id: 'ocvV', label: 'Open-circuit voltage', plausible: [10, 13.2], quantity: 'voltage' }),
    temperatureField,
  ],
  holds: (values, context) => {
    const ocv = values['ocvV'];
    const tempC = values['tempC'];
    const startBelow = context.threshold('startBelowC').value;
    if (typeof tempC === 'number' && tempC >= startBelow)
      return {
        why: `${tempC.toFixed(1)} °C: too warm to charge. Wait until it is below ${startBelow} °C and read again.`,
        canOverride: false,
      };
    const low = typeof ocv === 'number' ? lowWords(ocv, wasFilledHere, context) : undefined;
    return low === undefined ? undefined : { why: low, canOverride: true };
  },
  denials,
  remark: (values, context) => {
    const ocv = values['ocvV'];
    const low = context.threshold('soakLowV').value;
    if (typeof ocv === 'number' && !wasFilledHere && ocv < context.threshold('soakSuspectV').value)
      return `${ocv.toFixed(2)} V: it stood until it was discharged. It will charge longer; read it again a week later.`;
    return typeof ocv === 'number' && ocv < low
      ? `${ocv.toFixed(2)} V is under the ${low.toFixed(2)} V of old stock; it will charge longer.`
      : undefined;
  },
  handsMin: 1,
  overdueAfterMin: 30,
  cautions: [],
  shows: ['soakLowV', 'soakSuspectV', 'startBelowC'],
});
