import type { INestApplication } from '@nestjs/common';
import { DocumentBuilder, SwaggerModule, type OpenAPIObject } from '@nestjs/swagger';
import * as contract from '@crew/contract';
import { getMetadataStorage } from 'class-validator';
import { validationMetadatasToSchemas } from 'class-validator-jsonschema';
import { defaultMetadataStorage } from 'class-transformer/cjs/storage.js';
import type { NextFunction, Response } from 'express';
import { ANSWER_SCHEMAS, describeAnswer } from './answers.ts';
import type { RequestOfSomebody } from './rights.ts';

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
    additionalConverters: { isDay: { type: 'string', format: 'date' }, isTextOrNumber: { type: ['string', 'number'] } },
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

/** Serves the document and its page to whoever is signed in. */
export function serveApiDescription(app: INestApplication): void {
  const document = describeApi(app);
  app.use(['/api/docs', '/api/openapi.json'], (request: RequestOfSomebody, response: Response, next: NextFunction) => {
    if (request.session.accountId === undefined)
      response.status(401).json({ code: 'not-signed-in', message: 'Sign in to read the API’s description.' });
    else next();
  });
  SwaggerModule.setup('api/docs', app, document, { jsonDocumentUrl: 'api/openapi.json' });
}
