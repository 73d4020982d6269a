import { DataSource } from 'typeorm';
import { databaseOptions, migrate } from '../apps/server/dist/data-source.js';
import { dropDatabase, ensureDatabase, startCluster } from './cluster.mjs';

/** Prints the SQL by which the entities differ from the migrations; nothing when they agree. */
const cluster = await startCluster({ name: 'test-database', isThrowaway: true });
await dropDatabase(cluster, 'drift');
await ensureDatabase(cluster, 'drift');
const source = await new DataSource(databaseOptions(cluster.url('drift'), 2)).initialize();
await migrate(cluster.url('drift'));
const drift = await source.driver.createSchemaBuilder().log();
for (const { query } of drift.upQueries) console.log(`${query};`);
await source.destroy();
