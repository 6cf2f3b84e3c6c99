/** Water that is gone, by mass: what it weighs against a full one of its type (handbook 3.2). */
import { fullMassG } from '../../battery/packMass.ts';
import type { BatteryType } from '../../battery/types.ts';
import type { ReadingSpec } from '../../units/reading.ts';
import type { StepValues } from '../../units/values.ts';
import type { Hold, NumberField } from './step.ts';

/** One piece against another of its type, as a share of its mass (assumed); heavier than this is more than chance. */
const PIECE_SHARE = 0.01;

/** What the scale shows of one that was full once. */
export function usedMassSpec(type: BatteryType): ReadingSpec {
  const fullG = fullMassG(type) ?? 0;
  return {
    label: 'Mass on the scale',
    unit: 'g',
    decimals: 0,
    possible: { min: 50, max: 60_000 },
    plausible: { min: Math.round(fullG * 0.85), max: Math.round(fullG * (1 + 2 * PIECE_SHARE)) },
  };
}

/** What it is lighter by, where somebody else knows what a full one weighs. */
export function deficitSpec(type: BatteryType): ReadingSpec {
  return {
    label: 'Lighter than it should be by',
    unit: 'g',
    decimals: 0,
    possible: { min: 0, max: 10_000 },
    plausible: { min: 0, max: Math.ceil(2 * type.capacityAh * type.cells) },
  };
}

/** From the scale where a full one's mass is known, else as it is said. */
export function missingMassFields(): NumberField[] {
  return [
    {
      kind: 'number',
      id: 'massG',
      quantity: 'mass',
      spec: ({ opened: { type } }) => usedMassSpec(type),
      isFor: (type) => fullMassG(type) !== undefined,
      insteadOf: 'deficitG',
    },
    {
      kind: 'number',
      id: 'deficitG',
      spec: ({ opened: { type } }) => deficitSpec(type),
      isFor: (type) => fullMassG(type) === undefined,
    },
  ];
}

/** What is missing by what was entered, g; below zero where it is heavier than a full one. */
export function missingG({ massG, deficitG }: StepValues, type: BatteryType): number | undefined {
  const fullG = fullMassG(type);
  if (typeof massG === 'number' && fullG !== undefined) return fullG - massG;
  return typeof deficitG === 'number' ? deficitG : undefined;
}

/** How it is weighed, and against what. */
export function weighingText(type: BatteryType): string {
  const fullG = fullMassG(type);
  const against =
    fullG === undefined
      ? 'On a scale, clean and dry, against the mass it should have; leave it out where that is not known.'
      : `On a scale, clean and dry, caps and covers on: a full one of its type has ${fullG} g.`;
  return `${against} A gram lost is about a millilitre of water.`;
}

/** Why a mass wants another look: none is heavier than full by more than pieces of a type differ. */
export function heavierThanFull(values: StepValues, type: BatteryType): Hold | undefined {
  const fullG = fullMassG(type) ?? 0;
  const over = -(missingG(values, type) ?? 0);
  return over > fullG * PIECE_SHARE && over > 0
    ? {
        why: `It is ${over} g heavier than a full one: dirt, a cable still on it, water that was added before, or another type. Weigh it again, clean and bare.`,
        canOverride: true,
      }
    : undefined;
}
