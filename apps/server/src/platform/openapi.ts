import type { INestApplication } from '@nestjs/common';
import { DocumentBuilder, SwaggerModule, type OpenAPIObject } from '@nestjs/swagger';
import * as contract from '@crew/contract';
import type { Access } from '@crew/contract';
import { getMetadataStorage } from 'class-validator';
import { validationMetadatasToSchemas } from 'class-validator-jsonschema';
import { defaultMetadataStorage } from 'class-transformer/cjs/storage.js';
import type { NextFunction, Response } from 'express';
import { ANSWER_SCHEMAS, describeAnswer } from './answers.ts';
import { ACCESS_MARK, Accounts, type RequestOfSomebody } from './rights.ts';

type Schemas = NonNullable<NonNullable<OpenAPIObject['components']>['schemas']>;

/** The OpenAPI document; bodies are described by the very rules that check them. */
export function describeApi(app: INestApplication): OpenAPIObject {
  const config = new DocumentBuilder()
    .setTitle('Nimble Crew')
    .setDescription('Plans, assigns and hands on the work of a small service agency. Days are ISO days, effort is minutes.')
    .setVersion('1')
    .setOpenAPIVersion('3.1.0')
    .addCookieAuth('crew.sid')
    .build();
  const document = SwaggerModule.createDocument(app, config);
  const bodies = validationMetadatasToSchemas({
    classValidatorMetadataStorage: getMetadataStorage(),
    classTransformerMetadataStorage: defaultMetadataStorage,
    refPointerPrefix: '#/components/schemas/',
    additionalConverters: {
      isDay: { type: 'string', format: 'date' },
      isTextOrNumber: { type: ['string', 'number'] },
      isRuleContent: { allOf: [{ $ref: '#/components/schemas/RuleContent' }] },
    },
  }) as Schemas;
  for (const body of Object.values(contract)) if (typeof body === 'function' && body.name in bodies) describeAbsences(bodies, body);
  const error = {
    type: 'object',
    required: ['code', 'message'],
    properties: {
      code: { type: 'string', enum: Object.keys(contract.ERRORS) },
      message: { type: 'string' },
      field: { type: 'string' },
      details: {},
    },
  } as const;
  document.components = {
    ...document.components,
    schemas: { ...document.components?.schemas, ...ANSWER_SCHEMAS, ...bodies, Error: { ...error, required: [...error.required] } },
  };
  for (const path of Object.values(document.paths)) {
    for (const operation of Object.values(path as Record<string, Parameters<typeof describeAnswer>[0]>)) {
      describeAnswer(operation);
      if (operation?.responses)
        operation.responses['default'] = {
          description: 'A refusal',
          content: { 'application/json': { schema: { $ref: '#/components/schemas/Error' } } },
        };
    }
  }
  return document;
}

/** Says which fields may be null, and that such a field must still be there unless it may be left out too. */
function describeAbsences(bodies: Schemas, body: { readonly name: string }): void {
  const { properties = {}, required = [] } = bodies[body.name] as { properties?: Schemas; required?: string[] };
  for (const [field, absences] of contract.absencesOf(body)) {
    if (!absences.has('null')) continue;
    properties[field] = { anyOf: [properties[field] ?? {}, { type: 'null' }] };
    if (!absences.has('left-out')) required.push(field);
  }
  bodies[body.name] = { ...bodies[body.name], properties, ...(required.length === 0 ? {} : { required }) };
}

/** The part of the document that somebody of this access can use: what they may not call is not described to them. */
export function describeFor(document: OpenAPIObject, access: Access): OpenAPIObject {
  const mayUse = (operation: object): boolean => {
    const allowed = (operation as { [ACCESS_MARK]?: readonly Access[] })[ACCESS_MARK];
    return allowed === undefined || allowed.includes(access);
  };
  const paths = Object.entries(document.paths).flatMap(([path, item]) => {
    const operations = Object.entries(item as Record<string, object>).filter(([, operation]) => mayUse(operation));
    return operations.length === 0
      ? []
      : [[path, Object.fromEntries(operations.map(([method, { ...operation }]) => [method, withoutMark(operation)]))]];
  });
  const described = { ...document, paths: Object.fromEntries(paths) as OpenAPIObject['paths'] };
  return { ...described, components: { ...document.components, schemas: schemasOf(described) } };
}

const withoutMark = ({ [ACCESS_MARK]: _mark, ...operation }: { readonly [ACCESS_MARK]?: unknown }): object => operation;

/** The schemas that are referred to, from the paths or from one another. */
function schemasOf({ paths, components }: OpenAPIObject): Schemas {
  const all = components?.schemas ?? {};
  const found: Schemas = {};
  const follow = (part: unknown): void => {
    for (const [, name] of JSON.stringify(part).matchAll(/"#\/components\/schemas\/([^"]+)"/g)) {
      const schema = all[name as string];
      if (schema === undefined || (name as string) in found) continue;
      found[name as string] = schema;
      follow(schema);
    }
  };
  follow(paths);
  return found;
}

/** Serves the document and its page to whoever is signed in, as far as it is theirs to use. */
export function serveApiDescription(app: INestApplication): void {
  const document = describeApi(app);
  const parts = new Map<Access, OpenAPIObject>();
  const accounts = app.get(Accounts);
  app.use(['/api/docs', '/api/openapi.json'], (request: RequestOfSomebody, response: Response, next: NextFunction) => {
    const { accountId } = request.session;
    const asking = accountId === undefined ? Promise.resolve(null) : accounts.findWho(accountId);
    asking.then((who) => {
      if (who === null) return void response.status(401).json({ code: 'not-signed-in', message: 'Sign in to read the API’s description.' });
      request.who = who;
      next();
    }, next);
  });
  const partOf = (access: Access): OpenAPIObject => {
    const part = parts.get(access) ?? describeFor(document, access);
    parts.set(access, part);
    return part;
  };
  SwaggerModule.setup('api/docs', app, document, {
    jsonDocumentUrl: 'api/openapi.json',
    patchDocumentOnRequest: (request) => partOf((request as RequestOfSomebody).who?.access ?? 'client'),
  });
}
