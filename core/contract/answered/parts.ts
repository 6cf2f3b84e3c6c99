/** What answers are made of. */
import Joi from 'joi';

export const id = Joi.string().guid().required();
export const words = Joi.string().allow('').required();
export const moment = Joi.number().integer().required().description('shop time, ms');
export const count = Joi.number().integer().min(0).required();
export const figure = Joi.number().required();
export const share = Joi.number().min(0);
export const outcome = Joi.string().valid(
  'certified',
  'returned',
  'rejected',
  'recovered',
  'retired',
  'withdrawn',
  'charged',
);

export const grade = Joi.string().valid('A', 'A pending', 'B', 'C', 'R');

/** Every member of the type has its schema here, and nothing else has. */
export const objectOf = <T>(keys: {
  readonly [Member in keyof Required<T>]: Joi.Schema;
}): Joi.ObjectSchema<T> => Joi.object<T>(keys);

export const listOf = (item: Joi.Schema): Joi.ArraySchema => Joi.array().items(item).required();
