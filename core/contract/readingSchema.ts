/** A reading taken to find out what is the matter with a battery: each kind with what it can show at all. */
import Joi from 'joi';
import { number } from './chargerSchema.ts';

const cell = Joi.number()
  .integer()
  .min(1)
  .max(12)
  .required()
  .messages({ '*': 'Cell: 1 to 12, counted from the positive post.' });
const volts = number(-20, 20, 'Voltage', 'V');

const kinds = {
  ocv: { volts, isRested: Joi.boolean().required() },
  load: {
    volts,
    amps: number(1, 3000, 'Load', 'A').required(),
    seconds: number(1, 60, 'Length', 's'),
    firstV: number(-20, 20, 'Voltage at first', 'V').optional(),
    backV: number(-20, 20, 'Voltage it springs back to', 'V').optional(),
    within: number(0.05, 5, 'Half of the interval', 'V').optional(),
  },
  tester: { amps: number(0, 3000, 'Cranking current on the tester', 'A') },
  density: {
    cell,
    density: number(1, 1.4, 'Density', 'g/cm³'),
    tempC: number(0, 50, 'Temperature of the electrolyte', '°C').optional(),
    isMixed: Joi.boolean(),
    within: number(0.001, 0.1, 'Half of the interval', 'g/cm³').optional(),
  },
  level: { cell, level: Joi.string().valid('at-line', 'low', 'plates-bare').required() },
  dips: { volts: Joi.array().items(Joi.number().min(-5).max(5)).min(2).max(13).required() },
  acceptance: { volts, amps: number(0, 200, 'Accepted current', 'A') },
  crank: { volts },
  resistance: { ohm: number(0, 100, 'Resistance', 'Ω').required() },
  warmth: {
    cells: Joi.array()
      .items(Joi.object({ cell, tempC: number(-20, 90, 'Warmth of the cell', '°C').required() }))
      .min(1)
      .max(12)
      .required(),
  },
  mass: { deficitG: number(-10_000, 10_000, 'Lighter than it should be by', 'g').required() },
  reserve: {
    amps: number(0.1, 200, 'Current drawn', 'A').required(),
    minutes: number(0, 3000, 'Minutes', 'min'),
  },
  drain: {
    amps: number(0.1, 200, 'Current drawn', 'A').required(),
    minute: number(0, 3000, 'Minutes so far', 'min').required(),
    volts,
  },
  hold: { volts: number(-2, 15, 'Voltage lost', 'V') },
  charger: {
    view: Joi.string().valid('refuses', 'stuck', 'finishes').required(),
    startV: number(0, 14, 'Voltage it starts at', 'V').required(),
  },
  bubbles: { cell, bubbles: Joi.string().valid('lively', 'few', 'none').required() },
} as const satisfies Record<string, Joi.SchemaMap>;

export const readingSchema = Joi.alternatives()
  .conditional('.kind', {
    switch: Object.entries(kinds).map(([kind, keys]) => ({
      is: kind,
      then: Joi.object({ kind: Joi.string().valid(kind).required(), ...keys }),
    })),
  })
  .messages({ 'alternatives.any': `The reading needs a kind: ${Object.keys(kinds).join(', ')}.` });

/** The same without the condition, which JSON Schema cannot say. */
export const readingDocumentSchema = Joi.alternatives(
  ...Object.entries(kinds).map(([kind, keys]) =>
    Joi.object({ kind: Joi.string().valid(kind).required(), ...keys }),
  ),
);
