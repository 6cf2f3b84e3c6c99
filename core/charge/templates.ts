/**
 * Chargers as one finds them on a bench, from a question or two: what its knob says, which programmes stand on its front.
 * All else is what is common to the kind, and can be changed later.
 */
import type { Charger, ChargerMode } from './charger.ts';

export interface TemplateAnswers {
  readonly name: string;
  /** The highest current it gives, A. */
  readonly mostA: number;
  /** The settings on its knob or switch, where it has no others, A. */
  readonly settingsA?: readonly number[];
  /** Of a supply, the highest voltage, V. */
  readonly mostV?: number;
  readonly modes?: readonly ChargerMode[];
  readonly nominalV?: readonly number[];
  /** All its outputs run at one setting. */
  readonly sharesSetting?: boolean;
}

export const TEMPLATES = {
  supply: {
    title: 'Bench supply, volts and amps set',
    asks: 'What does it give at most?',
    is: { kind: 'programmable', leastA: 0.05, mostV: 32, startV: 0, efficiency: 0.85 },
    because: 'Holds the current and voltage it is set to.',
  },
  knob: {
    title: 'Charger with a current knob',
    asks: 'What does its knob say?',
    is: { kind: 'bench', leastA: 0.5, mostV: 16, startV: 0, efficiency: 0.75 },
    because: 'Holds a current; the voltage is the operator’s to watch.',
  },
  automatic: {
    title: 'Automatic charger',
    asks: 'What does its switch say, and which programmes has it?',
    is: { kind: 'automatic', leastA: 0.8, mostV: 14.7, startV: 9, efficiency: 0.85 },
    because: 'Runs its own programme; its lamp shows full.',
  },
  trickle: {
    title: 'Trickle charger or maintainer',
    asks: 'What does it give?',
    is: { kind: 'taper', leastA: 0, mostV: 14.4, startV: 8, efficiency: 0.6 },
    because: 'Keeps what is full.',
  },
} as const;

export type TemplateId = keyof typeof TEMPLATES;

/** A gel programme alone stops here; one among others has its own, V on six cells. */
const GEL_ALONE_V = 14.1;
/** What is set lies between the setting's own coarseness and this, where the knob has no detents. */
const LEAST_SHARE = 0.05;

/**
 * @param id of the charger
 * @throws RangeError in one sentence where it gives no current
 */
export function chargerFrom(template: TemplateId, id: string, answers: TemplateAnswers): Charger {
  const { is, because, title } = TEMPLATES[template];
  const { settingsA = [], mostV, modes, nominalV = [12], name, sharesSetting = false } = answers;
  const mostA = settingsA.length > 0 ? Math.max(...settingsA) : answers.mostA;
  if (!(mostA > 0 && mostA <= 200))
    throw new RangeError('What it gives at most: a number above 0 and up to 200 A.');
  const leastA = settingsA.length > 0 ? Math.min(...settingsA) : Math.min(is.leastA, mostA * LEAST_SHARE);
  const isGelAlone = modes?.length === 1 && modes[0] === 'gel';
  const openV = is.mostV;
  return {
    id,
    name: name.trim() === '' ? title : name.trim(),
    ...is,
    leastA,
    mostA,
    mostV: isGelAlone ? GEL_ALONE_V : (mostV ?? is.mostV),
    nominalV,
    ...(settingsA.length > 0 ? { detentsA: [...settingsA].sort((a, b) => a - b) } : {}),
    ...(modes && modes.length > 0 ? { modes } : {}),
    ...(template === 'trickle' ? { openV, taperOhm: (openV - 12) / mostA } : {}),
    ...(template === 'automatic' ? { programmes: ['automatic'] as const } : {}),
    ...(sharesSetting ? { sharesSetting: true } : {}),
    because,
  };
}
