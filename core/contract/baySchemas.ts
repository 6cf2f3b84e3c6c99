/** What is asked of a bay with a supply of its own, and of what was read there. */
import Joi from 'joi';
import { CAPACITY_METHODS } from '../grading/grade.ts';
import { number, text } from './chargerSchema.ts';

const method = Joi.string().valid(...Object.keys(CAPACITY_METHODS));

export const bayCheckSchema = Joi.object({
  job: Joi.string().guid().required(),
  method,
});

/** Who tells it to go on or off, where the shop proves no names. */
export const bayToldSchema = Joi.object({ by: text(60, 'Who').optional() });

/** The same, and how far it goes on by itself then. */
export const bayConfirmSchema = bayToldSchema.keys({
  goesOn: Joi.object({ leavesTester: Joi.boolean().required(), method }).optional(),
});

const LATEST_MS = 8.64e15;
const MOST_STRETCHES = 5000;

/** Between which moments, shop time in ms; and into how many stretches it is drawn together. */
export const readingsAskedSchema = Joi.object({
  from: number(0, LATEST_MS, 'From', 'ms').optional().default(0),
  to: number(0, LATEST_MS, 'To', 'ms').optional().default(LATEST_MS),
  most: number(1, MOST_STRETCHES, 'Stretches', '').integer().optional().default(1000),
});
