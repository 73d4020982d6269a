import { randomBytes } from 'node:crypto';
import connectPgSimple from 'connect-pg-simple';
import type { Request, RequestHandler } from 'express';
import session, { type SessionData } from 'express-session';
import type { Pool } from 'pg';
import type { DataSource } from 'typeorm';
import type { Config } from './config.ts';
import { DatabaseAbsent } from './database-faults.ts';
import { originOfRequest, type RequestOrigin } from './request-context.ts';

declare module 'express-session' {
  interface SessionData {
    accountId: string;
    csrfToken: string;
    renewedAt: number;
    /** When it began, milliseconds: however often it is prolonged, it ends. */
    beganAt: number;
    /** Wrong passwords tried before it began, to be told to whoever is signed in. */
    wrongPasswords: { readonly count: number; readonly since: string };
    /** Where it began: the address, and what the browser calls itself. */
    origin: RequestOrigin;
  }
}

const DAY_MS = 86_400_000;
const FORTNIGHT_MS = 14 * DAY_MS;
/** No session is older than this. */
const LIFETIME_MS = 60 * DAY_MS;

/** Sessions kept in PostgreSQL over the pool the server has already. */
export function sessionMiddleware(source: DataSource, config: Config): RequestHandler {
  const Store = connectPgSimple(session);
  const pool = (source.driver as unknown as { master: Pool }).master;
  const handle = session({
    // Reading a page must not write: `renewSession` prolongs once a day instead of at every request.
    store: new Store({ pool, tableName: 'session', pruneSessionInterval: false, disableTouch: true }),
    name: 'crew.sid',
    secret: config.sessionSecret,
    resave: false,
    saveUninitialized: false,
    cookie: { httpOnly: true, sameSite: 'lax', secure: 'auto', maxAge: FORTNIGHT_MS },
  });
  // What fails here is reaching the database.
  return (request, response, next) =>
    handle(request, response, (error?: unknown) =>
      next(error === undefined ? undefined : new DatabaseAbsent(String(error), { cause: error })),
    );
}

/** A fresh session id on every sign-in, so that one planted before is worth nothing. */
export function beginSession(request: Request, accountId: string, wrongPasswords?: SessionData['wrongPasswords']): Promise<void> {
  return new Promise((resolve, reject) => {
    request.session.regenerate((error: unknown) => {
      if (error) return reject(error instanceof Error ? error : new Error(String(error)));
      request.session.accountId = accountId;
      request.session.beganAt = Date.now();
      request.session.origin = originOfRequest();
      if (wrongPasswords !== undefined) request.session.wrongPasswords = wrongPasswords;
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

/** Ends a session that has lived as long as one may; answers whether it has. One that began before this was counted counts from now. */
export async function endOutlived(request: Request, now: number): Promise<boolean> {
  if (request.session.accountId === undefined) return false;
  request.session.beganAt ??= now;
  if (now - request.session.beganAt < LIFETIME_MS) return false;
  await endSession(request);
  return true;
}

/** Forgets the session on the server. */
export function endSession(request: Request): Promise<void> {
  return new Promise((resolve, reject) => {
    request.session.destroy((error: unknown) => (error ? reject(error instanceof Error ? error : new Error(String(error))) : resolve()));
  });
}
