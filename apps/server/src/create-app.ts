import { join } from 'node:path';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import express, { type NextFunction, type Request, type Response } from 'express';
import helmet from 'helmet';
import { Logger } from 'nestjs-pino';
import { DataSource } from 'typeorm';
import { FoundAgency } from './agency/found-agency.ts';
import { AppModule } from './app.module.ts';
import type { Config } from './platform/config.ts';
import { migrate } from './platform/database.ts';
import { serveApiDescription } from './platform/openapi.ts';
import { sessionMiddleware } from './platform/session.ts';
import { inputPipe } from './platform/validation.ts';

/** The server, migrated and ready to listen. */
export async function createApp(config: Config): Promise<NestExpressApplication> {
  await migrate(config.databaseUrl);
  const app = await NestFactory.create<NestExpressApplication>(AppModule.with(config), { bufferLogs: true, bodyParser: false });
  app.useLogger(config.isQuiet ? ['error'] : app.get(Logger));
  const source = app.get(DataSource);
  await app.get(FoundAgency).setClock();
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: { 'script-src': ["'self'"], 'style-src': ["'self'", "'unsafe-inline'"], 'upgrade-insecure-requests': null },
      },
      hsts: false,
    }),
  );
  app.use('/api', sessionMiddleware(source, config));
  readBodies(app);
  app.setGlobalPrefix('api');
  app.useGlobalPipes(inputPipe);
  app.enableShutdownHooks();
  serveApiDescription(app);
  if (config.webRoot !== null) serveWeb(app, config.webRoot);
  await app.init();
  return app;
}

/**
 * Bodies are JSON. Templates can be large, and larger still as a file with the files of its
 * tasks in it; nobody who is not signed in may make the server read that much.
 */
function readBodies(app: NestExpressApplication): void {
  const [small, large] = [express.json({ limit: '1mb' }), express.json({ limit: '64mb' })];
  app.use('/api', (request: Request, response: Response, next: NextFunction) => {
    const isLarge = request.path.startsWith('/templates/') && request.session.accountId !== undefined;
    (isLarge ? large : small)(request, response, next);
  });
}

/** The built pages: hashed files for ever, the page itself never from a cache. */
function serveWeb(app: NestExpressApplication, root: string): void {
  app.use('/assets', express.static(join(root, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }));
  app.use(express.static(root, { index: false, maxAge: 0 }));
  app.use((request: Request, response: Response, next: NextFunction) => {
    if (request.method !== 'GET' || request.path.startsWith('/api')) return next();
    response.setHeader('Cache-Control', 'no-store');
    response.sendFile(join(root, 'index.html'));
  });
}
