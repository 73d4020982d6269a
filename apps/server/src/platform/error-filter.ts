import { Catch, HttpException, Logger, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import { ERRORS, type ErrorBody, type ErrorCode } from '@crew/contract';
import type { Response } from 'express';
import { CommitUnsure, isAbsence, isTooSlow, sqlStateOf } from './database-faults.ts';
import { ProblemError } from '@crew/core';
import { Refusal, refusalOf } from './refusal.ts';

/** PostgreSQL's SQLSTATE, mapped without ever reading message text. */
const SQLSTATE: Readonly<Record<string, { code: ErrorCode; message: string }>> = {
  '23505': { code: 'already-there', message: 'Something with this name or address exists already. Choose another.' },
  '23503': { code: 'unknown-id', message: 'This refers to something that is not there. Choose it from the list again.' },
  '23514': { code: 'invalid-input', message: 'A value is outside what is allowed. Check the dates and numbers.' },
  '22P02': { code: 'invalid-input', message: 'A value has the wrong form.' },
  '22007': { code: 'invalid-input', message: 'A date has the wrong form. Write it as 2026-12-14.' },
  '22008': { code: 'invalid-input', message: 'A date lies too far away.' },
  '22021': { code: 'invalid-input', message: 'A text has a character in it that cannot be kept. Write it anew.' },
  '22P05': { code: 'invalid-input', message: 'A text has a character in it that cannot be kept. Write it anew.' },
  '22003': { code: 'invalid-input', message: 'A number is too large.' },
  '40001': { code: 'changed-meanwhile', message: 'Somebody changed this at the same moment. Try once more.' },
  '40P01': { code: 'changed-meanwhile', message: 'Somebody changed this at the same moment. Try once more.' },
};

const BY_STATUS: Readonly<Record<number, ErrorCode>> = {
  400: 'invalid-input',
  401: 'not-signed-in',
  403: 'not-allowed',
  404: 'not-found',
  413: 'too-large',
  415: 'wrong-format',
  429: 'too-many-tries',
  503: 'unavailable',
};

const HTTP_WORDS: Partial<Record<ErrorCode, string>> = {
  'invalid-input': 'The request could not be read. Check that it is JSON of the documented shape.',
  'not-found': 'There is no such address.',
  'too-many-tries': 'Too many tries. Wait a minute, then try again.',
  'too-large': 'This is larger than is taken here.',
  'wrong-format': 'Send JSON in UTF-8, not compressed by anything but gzip, deflate or br.',
  unavailable: 'The server cannot reach its data at this moment. Nothing was saved; try again in a moment.',
};

const UNSURE = 'The connection to the data broke at the last moment, so this may have been saved or not. Try again: it is not done twice.';

/** Seconds after which it is worth trying again. */
const RETRY_AFTER = '2';
/** An outage is said once in so long, however many requests meet it. */
const QUIET_MS = 30_000;

/** Turns whatever was thrown into the one error shape. */
@Catch()
export class ErrorFilter implements ExceptionFilter {
  private readonly logger = new Logger('errors');
  private quietUntil = 0;

  catch(error: unknown, host: ArgumentsHost): void {
    const response = host.switchToHttp().getResponse<Response>();
    const body = errorBodyOf(error);
    this.log(error, body.code);
    if (response.headersSent) return void response.end();
    if (body.code === 'unavailable') response.setHeader('Retry-After', RETRY_AFTER);
    const wait = (body.details as { readonly seconds?: unknown } | undefined)?.seconds;
    if (body.code === 'too-many-tries' && typeof wait === 'number') response.setHeader('Retry-After', String(wait));
    response.status(ERRORS[body.code].status).json(body);
  }

  private log(error: unknown, code: ErrorCode): void {
    if (code === 'internal-fault') this.logger.error(error instanceof Error ? error.stack : String(error));
    if (code !== 'unavailable' || Date.now() < this.quietUntil) return;
    this.quietUntil = Date.now() + QUIET_MS;
    this.logger.warn(`Requests are refused: ${error instanceof Error ? error.message : String(error)}`);
  }
}

/** Whatever was thrown, in the one error shape. */
export function errorBodyOf(error: unknown): ErrorBody {
  // A reader of the core met a value that cannot be, asked for or stored.
  if (error instanceof ProblemError) return errorBodyOf(refusalOf(error.problem));
  if (error instanceof Refusal) {
    return {
      code: error.code,
      message: error.message,
      ...(error.field === undefined ? {} : { field: error.field }),
      ...(error.details === undefined ? {} : { details: error.details }),
    };
  }
  if (error instanceof CommitUnsure) return { code: 'unavailable', message: UNSURE };
  const code = codeOf(error);
  if (code !== undefined) return { code, message: HTTP_WORDS[code] ?? ERRORS[code].meaning };
  return (
    SQLSTATE[sqlStateOf(error)] ?? { code: 'internal-fault', message: 'Something went wrong on our side. Nothing was saved; try again.' }
  );
}

/** What an error of the database's absence, of the framework or of the body parser (which carries a status of its own) comes to. */
function codeOf(error: unknown): ErrorCode | undefined {
  if (isAbsence(error) || isTooSlow(error)) return 'unavailable';
  const status = error instanceof HttpException ? error.getStatus() : (error as { status?: unknown } | null)?.status;
  return typeof status === 'number' ? BY_STATUS[status] : undefined;
}
