import { startCluster } from './cluster.mjs';
import { makeLargeWorld } from './large-world.mjs';
import { TEST_TODAY } from './test-databases.mjs';

/** Makes a small one of the worlds for benchmarks: its SQL names tables and columns that change. Fails with what it met. */
const cluster = await startCluster({ name: 'test-database', isThrowaway: true });
try {
  await makeLargeWorld(cluster, { today: TEST_TODAY, size: { engagements: 12, open: 9 } });
} finally {
  if (!cluster.wasRunning) cluster.stop();
}
