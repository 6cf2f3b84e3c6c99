/** How an operation is described: what it takes and what it answers. */
import type { Schema } from 'joi';
import type { AnswerName } from '@cork-ember/core/contract/answerSchemas.ts';

export type Json = Readonly<Record<string, unknown>>;

/** Joi describes itself as JSON Schema 2020-12, which is what OpenAPI 3.1 takes. */
export function jsonSchema(schema: Schema): Json {
  return schema['~standard'].jsonSchema.input({ target: 'draft-2020-12' });
}

const problem = (description: string): Json => ({
  description,
  content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
});

/** An answer as JSON, by the name of its schema. */
export const answer = (description: string, name: AnswerName | 'JobFile'): Json => ({
  description,
  content: { 'application/json': { schema: { $ref: `#/components/schemas/${name}` } } },
});

/** An answer that is a file, or a stream. */
export const file = (description: string, contentType: string): Json => ({
  description,
  content: { [contentType]: { schema: { type: 'string', format: 'binary' } } },
});

export const body = (schema: Schema): Json => ({
  required: true,
  content: { 'application/json': { schema: jsonSchema(schema) } },
});

export const inPath = (name: string): Json => ({
  name,
  in: 'path',
  required: true,
  schema: { type: 'string' },
});

export const inQuery = (name: string, schema: Json, description: string): Json => ({
  name,
  in: 'query',
  schema,
  description,
});

interface Operation {
  readonly summary: string;
  readonly parameters?: readonly Json[];
  readonly requestBody?: Json;
  readonly responses: Json;
}

export const bad = { 400: problem('One sentence: what is wrong and what is allowed.') };
export const missing = { 404: problem('There is no such thing.') };
export const conflict = { 409: problem('Stale or taken; `changed` lists the entries not yet seen.') };
export const refused = { 422: problem('The run sheet does not take it, and says why.') };

/** Operations by path and method. */
export type Paths = Readonly<Record<string, Readonly<Record<string, Operation>>>>;
