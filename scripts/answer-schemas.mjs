import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { format, resolveConfig } from 'prettier';
import { createGenerator } from 'ts-json-schema-generator';
import { projectRoot } from './cluster.mjs';

/**
 * Writes the JSON schemas of everything the API answers from the types themselves, so that the
 * OpenAPI document cannot say anything else than the code. With --check it only says whether
 * they are up to date.
 */
const target = join(projectRoot, 'apps/server/answers.schema.json');

const generator = createGenerator({
  path: join(projectRoot, 'packages/contract/src/answers/*.ts'),
  tsconfig: join(projectRoot, 'packages/contract/tsconfig.json'),
  type: '*',
  skipTypeCheck: true,
  additionalProperties: false,
  encodeRefs: false,
});
const definitions = generator.createSchema('*').definitions ?? {};
const sorted = Object.fromEntries(Object.entries(definitions).sort(([left], [right]) => left.localeCompare(right)));
const text = JSON.stringify(sorted).replaceAll('#/definitions/', '#/components/schemas/');
const written = await format(text, { ...(await resolveConfig(target)), parser: 'json' });

if (process.argv.includes('--check')) {
  if (readFileSync(target, 'utf8') !== written) {
    console.error('The schemas of the answers are not those of the types. Run npm run build:schemas and commit what it writes.');
    process.exit(1);
  }
} else writeFileSync(target, written);
