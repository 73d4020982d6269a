import { spawnSync } from 'node:child_process';
import { projectRoot, startCluster } from './cluster.mjs';
import { demoToday, LARGE_DATABASE, makeLargeWorld } from './large-world.mjs';

/** Makes the large world beside the demo, for benchmarks and for looking at a full house: then ./start --large. */
const built = spawnSync('npx', ['tsc', '-b'], { cwd: projectRoot, stdio: 'inherit' });
if (built.status !== 0) process.exit(1);
const cluster = await startCluster({ name: 'database' });
try {
  await makeLargeWorld(cluster, { today: demoToday(), say: console.log });
  console.log(`The large world stands in the database ${LARGE_DATABASE}. Look at it with: ./start --large`);
} finally {
  if (!cluster.wasRunning) cluster.stop();
}
