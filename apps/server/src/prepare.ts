import 'reflect-metadata';
import { NestFactory } from '@nestjs/core';
import { DataSource } from 'typeorm';
import { Agency } from './agency/agency.entity.ts';
import { CreateAgency } from './agency/create-agency.ts';
import { AppModule } from './app.module.ts';
import { makeDemo } from './demo/make-demo.ts';
import { readConfigOrEnd } from './platform/config.ts';
import { migrate } from './data-source.ts';

/** Brings the database up to date and, with the demo on and nothing there yet, makes the demo world. */
const given = readConfigOrEnd(process.env);
const url = new URL(given.databaseUrl);
// A demo half made by a power cut is made again, so it need not wait for the disk at every step.
url.searchParams.set('options', '-c synchronous_commit=off');
const config = {
  ...{ ...given, databaseUrl: url.href, isQuiet: true, runsJobs: false },
  // What the demo mails arrives in the bundled mailboxes, by a port of this moment.
  mail: { ...given.mail, outgoing: null, mailboxPort: 0, incomingPort: null },
};
await migrate(config.databaseUrl);
const app = await NestFactory.createApplicationContext(AppModule.with(config), { logger: ['error'] });
try {
  const source = app.get(DataSource);
  await app.get(CreateAgency).setClock();
  if (config.isDemo && (await source.manager.count(Agency)) === 0) {
    console.log('Making the demo world, once:');
    await makeDemo(app, (line) => console.log(line));
  }
} finally {
  await app.close();
}
