import { readFileSync } from 'node:fs';
import { applyDecorators } from '@nestjs/common';
import { ApiExtension, type OpenAPIObject } from '@nestjs/swagger';

type Schemas = NonNullable<NonNullable<OpenAPIObject['components']>['schemas']>;

/** What the API answers, by the name of its type in the contract; written by scripts/answer-schemas.mjs from those types. */
export const ANSWER_SCHEMAS = JSON.parse(readFileSync(new URL('../../answers.schema.json', import.meta.url), 'utf8')) as Schemas;

const MARK = 'x-answer';

/** Says in the description of the API what a route answers: a type of the contract, or a list of it. */
export function Answers(name: string, more: { readonly isList?: boolean } = {}): MethodDecorator {
  if (!(name in ANSWER_SCHEMAS)) throw new Error(`The contract has no answer named ${name}; npm run build:schemas reads it anew.`);
  const one = { $ref: `#/components/schemas/${name}` };
  return applyDecorators(ApiExtension(MARK, more.isList === true ? { type: 'array', items: one } : one));
}

interface Operation {
  responses?: Record<string, { description?: string; content?: object }>;
  [MARK]?: object;
}

/** Moves what `Answers` said to where the document has it: the content of the response that says yes. */
export function describeAnswer(operation: Operation): void {
  const schema = operation[MARK];
  delete operation[MARK];
  const yes = Object.entries(operation.responses ?? {}).find(([status]) => status.startsWith('2'))?.[1];
  if (schema === undefined || yes === undefined) return;
  yes.description = yes.description || 'As asked for';
  yes.content = { 'application/json': { schema } };
}
