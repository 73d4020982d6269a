import 'reflect-metadata';
import { createApp } from './create-app.ts';
import { readConfig } from './platform/config.ts';

const config = readConfig(process.env);
const app = await createApp(config);
await app.listen(config.port, '127.0.0.1');
