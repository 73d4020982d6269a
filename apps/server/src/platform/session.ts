import { randomBytes } from 'node:crypto';
import connectPgSimple from 'connect-pg-simple';
import type { Request, RequestHandler } from 'express';
import session from 'express-session';
import type { Pool } from 'pg';
import type { DataSource } from 'typeorm';
import type { Config } from './config.ts';

declare module 'express-session' {
  interface SessionData {
    accountId: string;
    csrfToken: string;
    renewedAt: number;
  }
}

const DAY_MS = 86_400_000;
const FORTNIGHT_MS = 14 * DAY_MS;

/** Sessions kept in PostgreSQL over the pool the server has already. */
export function sessionMiddleware(source: DataSource, config: Config): RequestHandler {
  const Store = connectPgSimple(session);
  const pool = (source.driver as unknown as { master: Pool }).master;
  return session({
    // Reading a page must not write: `renewSession` prolongs once a day instead of at every request.
    store: new Store({ pool, tableName: 'session', pruneSessionInterval: false, disableTouch: true }),
    name: 'crew.sid',
    secret: config.sessionSecret,
    resave: false,
    saveUninitialized: false,
    cookie: { httpOnly: true, sameSite: 'lax', secure: 'auto', maxAge: FORTNIGHT_MS },
  });
}

/** A fresh session id on every sign-in, so that one planted before is worth nothing. */
export function beginSession(request: Request, accountId: string): Promise<void> {
  return new Promise((resolve, reject) => {
    request.session.regenerate((error: unknown) => {
      if (error) return reject(error instanceof Error ? error : new Error(String(error)));
      request.session.accountId = accountId;
      request.session.csrfToken = randomBytes(24).toString('base64url');
      request.session.save((fault: unknown) => (fault ? reject(fault instanceof Error ? fault : new Error(String(fault))) : resolve()));
    });
  });
}

/** Somebody who comes back within the fortnight stays signed in for another one; written once a day at most. */
export function renewSession(request: Request, now: number): void {
  const left = request.session.cookie.maxAge ?? FORTNIGHT_MS;
  if (left < FORTNIGHT_MS - DAY_MS) request.session.renewedAt = now;
}

/** Forgets the session on the server. */
export function endSession(request: Request): Promise<void> {
  return new Promise((resolve, reject) => {
    request.session.destroy((error: unknown) => (error ? reject(error instanceof Error ? error : new Error(String(error))) : resolve()));
  });
}
