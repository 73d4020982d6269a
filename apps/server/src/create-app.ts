import { join } from 'node:path';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import express, { type NextFunction, type Request, type Response } from 'express';
import helmet from 'helmet';
import { WINDOW_HEADER } from '@crew/contract';
import { Logger } from 'nestjs-pino';
import { DataSource } from 'typeorm';
import { CreateAgency } from './agency/create-agency.ts';
import { AppModule } from './app.module.ts';
import type { Config } from './platform/config.ts';
import { migrate } from './data-source.ts';
import { Drain } from './platform/drain.ts';
import { serveApiDescription } from './platform/openapi.ts';
import { IDEMPOTENCY_HEADER, withRequest } from './platform/request-context.ts';
import { SayTopics } from './platform/say-topics.ts';
import { sessionMiddleware } from './platform/session.ts';
import { inputPipe } from './platform/validation.ts';

/** A request has so long to arrive, its headers less. */
const ARRIVAL_MS = { request: 60_000, headers: 15_000 } as const;

/** The server, migrated and ready to listen. */
export async function createApp(config: Config): Promise<NestExpressApplication> {
  await migrate(config.databaseUrl);
  const app = await NestFactory.create<NestExpressApplication>(AppModule.with(config), { bufferLogs: true, bodyParser: false });
  app.useLogger(config.isQuiet ? ['error'] : app.get(Logger));
  if (config.trustedProxies !== null) app.set('trust proxy', config.trustedProxies);
  // Answers are not stored by anybody, so a sum over each of them would be asked about by nobody.
  app.set('etag', false);
  Object.assign(app.getHttpServer(), { requestTimeout: ARRIVAL_MS.request, headersTimeout: ARRIVAL_MS.headers });
  const source = app.get(DataSource);
  await app.get(CreateAgency).setClock();
  app.use(securityHeaders(config));
  const drain = app.get(Drain);
  app.use('/api', (request: Request, response: Response, next: NextFunction) => drain.admit(request, response, next));
  app.use('/api', sessionMiddleware(source, config));
  app.use('/api', (request: Request, response: Response, next: NextFunction) => {
    // What is answered is somebody's own, and true now.
    response.setHeader('Cache-Control', 'no-store');
    const origin = { ip: request.ip ?? '', userAgent: (request.get('user-agent') ?? '').slice(0, 500) };
    withRequest({ key: request.get(IDEMPOTENCY_HEADER), window: request.get(WINDOW_HEADER), origin }, next);
  });
  app.setGlobalPrefix('api');
  app.useGlobalPipes(inputPipe);
  app.useGlobalInterceptors(new SayTopics());
  app.enableShutdownHooks();
  serveApiDescription(app);
  if (config.webRoot !== null) serveWeb(app, config.webRoot);
  await app.init();
  return app;
}

/** Behind a proxy that speaks TLS browsers are told to use nothing else; by itself the server speaks plain HTTP on the machine alone. */
const securityHeaders = (config: Config): ReturnType<typeof helmet> =>
  helmet({
    contentSecurityPolicy: {
      directives: { 'script-src': ["'self'"], 'style-src': ["'self'", "'unsafe-inline'"], 'upgrade-insecure-requests': null },
    },
    hsts: config.trustedProxies === null ? false : { maxAge: 31_536_000 },
  });

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
