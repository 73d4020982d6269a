import 'reflect-metadata';
import { createApp } from './create-app.ts';
import { readConfigOrEnd } from './platform/config.ts';

const config = readConfigOrEnd(process.env);
const app = await createApp(config);
await app.listen(config.port, '127.0.0.1');
