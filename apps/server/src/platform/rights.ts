import { applyDecorators, createParamDecorator, Injectable, SetMetadata, type CanActivate, type ExecutionContext } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import { ApiExtension } from '@nestjs/swagger';
import { ACCESS, can, type Access, type Action, type Subject } from '@crew/contract';
import type { Request } from 'express';
import { Refusal } from './refusal.ts';
import { endOutlived, renewSession } from './session.ts';

/** Who is asking. Exactly one of `personId` and `clientId` is set, or neither for a rule. */
export interface Who {
  /** The run of a rule that acts; it may do what a lead may. */
  readonly rule?: { readonly runId: string };
  readonly accountId: string;
  readonly agencyId: string;
  readonly agencyName: string;
  readonly access: Access;
  readonly name: string;
  readonly initials: string;
  readonly personId: string | null;
  readonly clientId: string | null;
  /** All clients a contact is one of, the main one first; none for the crew. */
  readonly clientIds: readonly string[];
  readonly clientName: string | null;
  /** The agency asks for a second factor that this account has not set up yet: until then it may do nothing else. */
  readonly mustAddSecondFactor?: boolean;
}

const ALLOWED = 'crew:allowed';
const OPEN = 'crew:open';

/** Opens a route to whoever may do this, be it only with what is their own. A route without this or `Open` is refused to everybody. */
export const Allow = (action: Action) => applyDecorators(SetMetadata(ALLOWED, action), ApiExtension(ACCESS_MARK, accessFor(action)));

const accessFor = (action: Action): readonly Access[] => ACCESS.filter((access) => can({ access, personId: null }, action));

/** Where the description of the API says to whom a route is open; see `describeFor`. */
export const ACCESS_MARK = 'x-access';

/** A route that needs no sign-in. */
export const Open = () => SetMetadata(OPEN, true);

/** The signed-in caller, as a parameter of a handler. */
export const Caller = createParamDecorator((_: unknown, context: ExecutionContext): Who => {
  const who = context.switchToHttp().getRequest<RequestOfSomebody>().who;
  if (who === undefined) throw new Refusal('not-signed-in', 'Sign in first.');
  return who;
});

export interface RequestOfSomebody extends Request {
  who?: Who;
}

/** Refuses, with these words and at this field, what somebody may not do to a thing. */
export function requireCan(who: Who, action: Action, { subject, words, field }: Refused): void {
  if (!can(who, action, subject)) throw new Refusal('not-allowed', words, field === undefined ? {} : { field });
}

interface Refused {
  readonly subject?: Subject;
  readonly words: string;
  readonly field?: string;
}

/** Methods that change nothing. */
export const READING = new Set(['GET', 'HEAD', 'OPTIONS']);

/** Whether a route needs no sign-in. */
export const isOpenRoute = (reflector: Reflector, places: Parameters<Reflector['getAllAndOverride']>[1]): boolean =>
  reflector.getAllAndOverride<boolean | undefined>(OPEN, places) === true;

/** Where accounts are looked up; the area that has them provides it. */
export abstract class Accounts {
  /** Somebody who is signed in and may still come in; else null. */
  abstract findWho(accountId: string): Promise<Who | null>;
}

/**
 * Who is signed in, whether the request comes from our own page, and whether they may do what
 * the route is for; see `RIGHTS` in the contract. Use cases ask the same table about the thing
 * itself, and what somebody may see inside a route is a condition in the query (`visible.ts`).
 */
@Injectable()
export class RightsGuard implements CanActivate {
  private readonly reflector: Reflector;
  private readonly accounts: Accounts;

  constructor(reflector: Reflector, accounts: Accounts) {
    this.reflector = reflector;
    this.accounts = accounts;
  }

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const request = context.switchToHttp().getRequest<RequestOfSomebody>();
    const places = [context.getHandler(), context.getClass()];
    if (isOpenRoute(this.reflector, places)) {
      if (!READING.has(request.method)) refuseForeignOrigin(request);
      return true;
    }
    const who = await this.whoIs(request);
    request.who = who;
    if (!READING.has(request.method)) requireToken(request);
    const action = this.reflector.getAllAndOverride<Action | undefined>(ALLOWED, places);
    if (action === undefined || !can(who, action))
      throw new Refusal('not-allowed', 'You do not have access to this. Ask a lead of your agency.');
    if (who.mustAddSecondFactor === true && action !== 'account.use')
      throw new Refusal(
        'second-factor-missing',
        'Your agency asks owners and leads for a second factor. Set yours up first, under Settings.',
      );
    return true;
  }

  private async whoIs(request: RequestOfSomebody): Promise<Who> {
    if (await endOutlived(request, Date.now()))
      throw new Refusal('not-signed-in', 'You have been signed in for 60 days. Sign in again to continue.');
    const accountId = request.session.accountId;
    const who = accountId === undefined ? null : await this.accounts.findWho(accountId);
    if (who === null) throw new Refusal('not-signed-in', 'You are not signed in. Sign in to continue.');
    renewSession(request, Date.now());
    return who;
  }
}

/** Before there is a session there is no token: a page of another site is recognised by its origin. */
function refuseForeignOrigin(request: Request): void {
  const origin = request.headers.origin;
  if (origin === undefined || origin === 'null') return;
  if (URL.parse(origin)?.host !== request.headers.host)
    throw new Refusal('stale-page', 'This request came from another site. Open the sign-in page again.');
}

/** A cookie alone proves nothing: the page must also send the token it was given. */
function requireToken(request: Request): void {
  const token = request.headers['x-crew-token'];
  if (typeof token !== 'string' || token !== request.session.csrfToken) {
    throw new Refusal('stale-page', 'This page belongs to an older session. Reload it and try again.');
  }
}
