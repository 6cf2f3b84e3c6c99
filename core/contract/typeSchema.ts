/** What a battery type may say, as it may cross the wire: one schema for form, request, import and the log of a job. */
import Joi from 'joi';
import { CONSTRUCTION, CONSTRUCTIONS } from '../battery/construction.ts';
import { ceilingRange } from '../battery/printedRange.ts';
import {
  CRANKING_STANDARDS,
  DELIVERY_NAMES,
  DUTY_NAMES,
  nominalV,
  POSTS,
  type ListedType,
} from '../battery/types.ts';
import { number, optional, text } from './chargerSchema.ts';

/** What a starter gives for each Ah, at least and at most, whatever standard rated it. */
const CRANKING_PER_AH = { least: 1, most: 40 } as const;

const printedSchema = Joi.object({
  chargeCurrentA: optional(0.01, 600, 'Charge current', 'A'),
  quickCurrentA: optional(0.01, 1000, 'Quick current', 'A'),
  chargeTimeH: optional(0.5, 48, 'Charge time', 'h'),
  ceilingV: optional(2, 30, 'Charge voltage', 'V'),
  packDwellMin: optional(1, 240, 'Pack stays on', 'min'),
  soakMin: optional(0, 480, 'Soak', 'min'),
  fillDensity: optional(1.2, 1.34, 'Electrolyte density', 'g/cm³'),
  postTorqueNm: optional(0.5, 40, 'Post torque', 'N·m'),
});

const oneOf = (names: readonly string[], sentence: string): Joi.StringSchema =>
  Joi.string()
    .valid(...names)
    .required()
    .messages({ '*': sentence });

/** What no single field can say. @returns a sentence, or undefined where it holds together */
function contradiction(type: ListedType): string | undefined {
  const { construction, delivery, capacityAh, cranking, estimate, pack } = type;
  if (construction === 'lithium') return undefined;
  if (construction === 'gel' && (delivery === 'own-pack' || delivery === 'bulk-acid'))
    return 'Delivery: gel is filled at the factory and never opened; choose filled at the factory, or in service.';
  if (construction === 'agm' && delivery === 'bulk-acid')
    return 'Delivery: an AGM takes the acid of its own pack, never loose acid.';
  if (construction === 'agm' && delivery === 'own-pack' && !pack)
    return 'Pack: an AGM that comes dry takes one pack alone; give the code, volume and density the pack prints.';
  if (cranking) {
    const { least, most } = CRANKING_PER_AH;
    const [from, to] = [Math.ceil(capacityAh * least), Math.floor(capacityAh * most)];
    if (cranking.amps < from || cranking.amps > to)
      return `Cranking current: ${capacityAh} Ah give ${from} to ${to} A; ${cranking.amps} A do not go with it.`;
  }
  const { min, max } = ceilingRange(type);
  for (const [where, { ceilingV }] of [
    ['label', type.label],
    ['sheet', type.sheet],
  ] as const)
    if (ceilingV !== undefined && (ceilingV < min - 1e-9 || ceilingV > max + 1e-9))
      return `Charge voltage of the ${where}: ${min.toFixed(2)} to ${max.toFixed(2)} V on ${CONSTRUCTION[construction].aBattery} of ${nominalV(type)} V.`;
  if (estimate && !(estimate.leastAh <= capacityAh && capacityAh <= estimate.mostAh))
    return 'Estimate: the capacity lies between its least and its most.';
  return undefined;
}

const facts = {
  id: text(40, 'Type code'),
  maker: text(60, 'Maker'),
  construction: oneOf([...CONSTRUCTIONS, 'lithium'], 'Construction: flooded, agm, gel or lithium.'),
  duty: oneOf(Object.keys(DUTY_NAMES), 'Duty: starter, deep-cycle or standby.'),
  delivery: oneOf(
    Object.keys(DELIVERY_NAMES),
    'Delivery: own-pack, bulk-acid, factory-activated or in-service.',
  ),
  cells: Joi.number()
    .integer()
    .min(1)
    .max(12)
    .required()
    .messages({ '*': 'Cells: 1 to 12, two volts each; 12 V is six of them.' }),
  capacityAh: number(0.5, 3000, 'Capacity', 'Ah'),
  hourRate: number(1, 100, 'Hour rate', 'h'),
  estimate: Joi.object({
    from: oneOf(['cranking', 'reserve', 'mass', 'like'], 'Estimate: from cranking, reserve, mass or like.'),
    leastAh: number(0.1, 3000, 'Least capacity', 'Ah'),
    mostAh: number(0.1, 6000, 'Most capacity', 'Ah'),
  }),
  cranking: Joi.object({
    amps: number(1, 5000, 'Cranking current', 'A'),
    standard: oneOf(CRANKING_STANDARDS, 'Cranking standard: SAE, EN, IEC, DIN or JIS.'),
    isEquivalent: Joi.boolean()
      .valid(true)
      .messages({ '*': 'Cranking of an equivalent: true, or left out.' }),
  }),
  reserveMin: optional(1, 2000, 'Reserve capacity', 'min'),
  pack: Joi.object({
    code: text(40, 'Pack code'),
    volumeMl: number(1, 30_000, 'Pack volume', 'mL'),
    densityKgPerL: number(1.2, 1.4, 'Pack density', 'kg/L'),
  }),
  hasHiddenPorts: Joi.boolean().messages({ '*': 'Hidden ports: true or false.' }),
  hasVentHose: Joi.boolean().messages({ '*': 'Vent hose: true or false.' }),
  caseCode: Joi.string().trim().min(1).max(40).messages({ '*': 'Case: 1 to 40 letters.' }),
  dryMassG: optional(50, 200_000, 'Dry mass', 'g'),
  wetMassG: optional(50, 300_000, 'Mass', 'g'),
  newPrice: optional(0.01, 100_000, 'Price of a new one', ''),
  positivePost: oneOf(POSTS, 'Positive post: left, right or unknown.'),
  likeId: Joi.string().trim().min(1).max(40).messages({ '*': 'Like: the code of another type.' }),
  isGeneric: Joi.boolean(),
  isRetired: Joi.boolean(),
  label: printedSchema.required(),
  sheet: printedSchema.required(),
};

const holdsTogether: Joi.CustomValidator<ListedType> = (type, helpers) => {
  const sentence = contradiction(type);
  return sentence === undefined ? type : helpers.message({ custom: `${type.id}: ${sentence}` });
};

export const typeSchema = Joi.object<ListedType>(facts).custom(holdsTogether);

/** A type within the log of a job: what the label printed then stands as it was, and nothing refused was ever taken. */
const printedThen = Joi.object().pattern(Joi.string().max(30), Joi.number());
export const takenTypeSchema = Joi.object({
  ...facts,
  construction: oneOf(CONSTRUCTIONS, 'Construction: flooded, agm or gel.'),
  label: printedThen.required(),
  sheet: printedThen.required(),
});
