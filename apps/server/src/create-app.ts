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
  const app = await NestFactory.create<NestExpressApplication>(AppModule.with(config), { bufferLogs: true });
  app.useLogger(config.isQuiet ? ['error'] : app.get(Logger));
  const source = app.get(DataSource);
  await migrate(source);
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
  app.setGlobalPrefix('api');
  app.useGlobalPipes(inputPipe);
  app.enableShutdownHooks();
  serveApiDescription(app);
  if (config.webRoot !== null) serveWeb(app, config.webRoot);
  await app.init();
  return app;
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
