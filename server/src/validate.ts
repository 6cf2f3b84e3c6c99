/** Joi at the edge: a checked value, or one sentence. */
import type { Schema } from 'joi';
import { ProblemError } from './problems.ts';

/** @throws ProblemError with the first thing that is wrong */
export function validated<T>(schema: Schema, value: unknown): T {
  const { error, value: checked } = schema.validate(value ?? {}, {
    abortEarly: true,
    errors: { wrap: { label: '“' } },
  });
  if (!error) return checked as T;
  const sentence = error.message.replaceAll('“', '"').trim();
  throw new ProblemError('bad-input', /[.!?]$/.test(sentence) ? sentence : `${sentence}.`);
}
