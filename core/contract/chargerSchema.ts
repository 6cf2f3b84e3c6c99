/** What a charger is, as it may cross the wire; and the pieces such schemas are made of. */
import Joi from 'joi';
import { CHARGED_VOLTS, CHARGER_KINDS, CHARGER_MODES } from '../charge/charger.ts';

/** A number that may be left out, with its own sentence. */
export const optional = (low: number, high: number, label: string, unit: string): Joi.NumberSchema =>
  Joi.number()
    .min(low)
    .max(high)
    .label(label)
    .messages({ '*': `${label}: a number from ${low} to ${high}${unit === '' ? '' : ` ${unit}`}.` });

export const number = (low: number, high: number, label: string, unit: string): Joi.NumberSchema =>
  optional(low, high, label, unit).required();

export const text = (most: number, label: string): Joi.StringSchema =>
  Joi.string()
    .trim()
    .min(1)
    .max(most)
    .required()
    .messages({ '*': `${label}: 1 to ${most} letters.` });

export const chargerSchema = Joi.object({
  id: Joi.string()
    .pattern(/^[a-z0-9][a-z0-9-]{0,30}$/)
    .required()
    .messages({ '*': 'Charger: an id of small letters, digits and hyphens.' }),
  name: text(60, 'Name of the charger'),
  kind: Joi.string()
    .valid(...Object.keys(CHARGER_KINDS))
    .required(),
  leastA: number(0, 200, 'Lowest current', 'A'),
  mostA: number(0.01, 200, 'Highest current', 'A').min(Joi.ref('leastA')).messages({
    'number.min': 'Highest current: not below the lowest.',
    '*': 'Highest current: a number from 0.01 to 200 A.',
  }),
  detentsA: Joi.array().items(Joi.number().min(0.01).max(200)).min(1).max(20),
  mostV: number(12, 32, 'Highest voltage on six cells', 'V'),
  nominalV: Joi.array()
    .items(Joi.number().valid(...CHARGED_VOLTS))
    .min(1)
    .unique()
    .required()
    .messages({ '*': 'Batteries: 2, 4, 6, 8, 12 or 24 V, one of them at least.' }),
  modes: Joi.array()
    .items(Joi.string().valid(...CHARGER_MODES))
    .min(1)
    .unique(),
  startV: number(0, 13, 'Start voltage on six cells', 'V'),
  efficiency: number(0.3, 1, 'Efficiency', ''),
  taperOhm: optional(0.01, 50, 'Fall per ampere', 'Ω'),
  openV: optional(12, 32, 'Open voltage', 'V'),
  pulses: Joi.object({
    peakA: number(0.1, 500, 'Spike', 'A'),
    seconds: number(0.000001, 60, 'Length of a spike', 's'),
    hertz: number(0.001, 50_000, 'Spikes a second', ''),
    programmeH: number(0.5, 336, 'Length of its programme', 'h'),
    reconditionV: optional(14, 17, 'Recondition stage up to', 'V'),
    maintainFromV: optional(12.5, 14.5, 'Maintains from', 'V'),
    maintainToV: optional(12.5, 14.5, 'Maintains up to', 'V'),
  }),
  programmes: Joi.array().items(Joi.string().max(30)).min(1),
  sharesSetting: Joi.boolean().valid(true),
  because: Joi.string().trim().allow('').max(200).required(),
})
  .and('taperOhm', 'openV')
  .messages({ 'object.and': 'A taper charger needs both its open voltage and its fall per ampere.' });
