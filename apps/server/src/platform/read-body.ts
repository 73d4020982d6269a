import { Injectable, SetMetadata, type CanActivate, type ExecutionContext } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import express, { type Request, type Response } from 'express';
import { beyondLimits, isKeepable, type BodyLimits } from './json-limits.ts';
import { Refusal } from './refusal.ts';
import { bindKey } from './request-context.ts';
import { isOpenRoute, READING, type RequestOfSomebody } from './rights.ts';

/** Where nobody is signed in a name, an address and a password are all there is to say. */
const OPEN: BodyLimits = { bytes: 1024, depth: 2, keys: 20, items: 20, values: 40 };
const USUAL: BodyLimits = { bytes: 512 * 1024, depth: 12, keys: 200, items: 5000, values: 20_000 };

const LIMITS = 'crew:body-limits';

const IGNORED = 'crew:body-ignored';

/** A route to which a body means nothing, whatever its form. */
export const IgnoresBody = (): MethodDecorator => SetMetadata(IGNORED, true);

/** A route whose bodies are larger than usual. */
export const TakesLarge = (limits: Partial<BodyLimits>): MethodDecorator => SetMetadata(LIMITS, { ...USUAL, ...limits });

/**
 * Reads the body of a request, after it is known that this caller may use the route: nobody
 * can make the server read what it will refuse. A guard, since only those run before anything
 * looks at the body; it runs after `RightsGuard`.
 */
@Injectable()
export class ReadBody implements CanActivate {
  private readonly reflector: Reflector;
  constructor(reflector: Reflector) {
    this.reflector = reflector;
  }

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const http = context.switchToHttp();
    const request = http.getRequest<RequestOfSomebody>();
    if (READING.has(request.method)) return true;
    const places = [context.getHandler(), context.getClass()];
    if (this.reflector.getAllAndOverride<boolean | undefined>(IGNORED, places) === true) return true;
    const usual = isOpenRoute(this.reflector, places) ? OPEN : USUAL;
    // A file is read from the disk by its own route, which says how large it may be.
    if (request.is('multipart/form-data') === false) {
      const limits = this.reflector.getAllAndOverride<BodyLimits | undefined>(LIMITS, places) ?? usual;
      request.body = await readJson(request, http.getResponse<Response>(), limits);
    }
    if (request.who !== undefined)
      bindKey(request.who.accountId, { method: request.method, url: request.originalUrl, body: request.body as unknown });
    return true;
  }
}

const readers = new Map<BodyLimits, ReturnType<typeof express.json>>();

/** Size and shape are looked at before the text is parsed. */
function readerFor(limits: BodyLimits): ReturnType<typeof express.json> {
  const reader =
    readers.get(limits) ??
    express.json({
      limit: limits.bytes,
      type: () => true,
      verify: (_request, _response, text) => {
        const fault = beyondLimits(text, limits);
        if (fault !== null) throw new Refusal('too-large', `${fault} Send less at once.`);
      },
    });
  readers.set(limits, reader);
  return reader;
}

async function readJson(request: Request, response: Response, limits: BodyLimits): Promise<unknown> {
  requireJson(request);
  await new Promise<void>((resolve, reject) => {
    readerFor(limits)(request, response, (error?: unknown) => (error === undefined ? resolve() : reject(refusalIn(error))));
  });
  const body = request.body as unknown;
  if (body === undefined) return {};
  if (typeof body !== 'object' || body === null || Array.isArray(body))
    throw new Refusal('invalid-input', 'The request is not a JSON object. Check it against the description of the API.');
  if (!isKeepable(body)) throw new Refusal('invalid-input', 'A text has a character in it that cannot be kept. Write it anew.');
  return body;
}

/** The parser wraps what `verify` throws; its own errors carry a status. */
const refusalIn = (error: unknown): Error => {
  const cause = error as { readonly type?: string; readonly message?: string };
  if (error instanceof Refusal) return error;
  if (cause.type === 'entity.verify.failed') return new Refusal('too-large', cause.message ?? 'This is larger than is taken here.');
  return error instanceof Error ? error : new Error(String(error));
};

/** A body that is not JSON in UTF-8 is not guessed at. */
function requireJson(request: Request): void {
  const type = request.headers['content-type'];
  const length = request.headers['content-length'];
  const hasBody = request.headers['transfer-encoding'] !== undefined || (length !== undefined && length !== '0');
  if (!hasBody) return;
  const charset = /charset\s*=\s*"?([^\s;"]+)/i.exec(type ?? '')?.[1]?.toLowerCase() ?? 'utf-8';
  if (request.is(['json', '+json']) === false || charset !== 'utf-8')
    throw new Refusal('wrong-format', 'Send JSON in UTF-8, with the content type application/json.');
}
