import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { benchCore } from './bench/core.mjs';
import { benchForesight } from './bench/foresee.mjs';
import { report } from './bench/measure.mjs';
import { benchRules } from './bench/rules.mjs';
import { benchServer } from './bench/server.mjs';
import { benchStorm } from './bench/storm.mjs';
import { projectRoot } from './cluster.mjs';

/** Prints every figure as a ratio to a baseline measured in the same run. Build first. */
benchCore();
await benchForesight();
await benchServer();
await benchStorm();
await benchRules();

const assets = join(projectRoot, 'apps/web/dist/assets');
const page = readFileSync(join(projectRoot, 'apps/web/dist/index.html'), 'utf8');
const size = (name) => gzipSync(readFileSync(join(assets, name))).length;
const first = new Set([...page.matchAll(/assets\/([\w.-]+\.js)/g)].map((match) => match[1]));
const collect = (name) => {
  for (const [, next] of readFileSync(join(assets, name), 'utf8').matchAll(/from\s*["']\.\/([\w.-]+\.js)["']/g)) {
    if (!first.has(next)) {
      first.add(next);
      collect(next);
    }
  }
};
for (const name of [...first, ...readdirSync(assets).filter((file) => file.startsWith('EngagementsPage') && file.endsWith('.js'))]) {
  first.add(name);
  collect(name);
}
const kilobytes = [...first].reduce((sum, name) => sum + size(name), 0) / 1000;
report('first page (Engagements), JavaScript gzipped', `${Math.round(kilobytes)} kB`, '≤ 250 kB');
