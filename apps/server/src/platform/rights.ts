import { applyDecorators, createParamDecorator, Injectable, SetMetadata, type CanActivate, type ExecutionContext } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import { ApiExtension } from '@nestjs/swagger';
import type { Access } from '@crew/contract';
import type { Request } from 'express';
import { AccountRepository } from '../account/account.repository.ts';
import { Refusal } from './refusal.ts';
import { endOutlived, renewSession } from './session.ts';

/** Who is asking. Exactly one of `personId` and `clientId` is set. */
export interface Who {
  readonly accountId: string;
  readonly agencyId: string;
  readonly agencyName: string;
  readonly access: Access;
  readonly name: string;
  readonly initials: string;
  readonly personId: string | null;
  readonly clientId: string | null;
  readonly clientName: string | null;
}

/** The groups routes are opened to. */
export const OWNERS = ['owner'] as const;
export const LEADS = ['owner', 'lead'] as const;
export const STAFF = ['owner', 'lead', 'member'] as const;
export const CREW = ['owner', 'lead', 'member', 'freelancer'] as const;
export const CLIENTS = ['client'] as const;
export const EVERYBODY = [...CREW, 'client'] as const;

const ALLOWED = 'crew:allowed';
const OPEN = 'crew:open';

/** Opens a route to these kinds of access. A route without this or `Open` is refused to everybody. */
export const Allow = (access: readonly Access[]) => applyDecorators(SetMetadata(ALLOWED, access), ApiExtension(ACCESS_MARK, access));

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

/** Whether leading is part of this access. */
export const isLead = (who: Pick<Who, 'access'>): boolean => who.access === 'owner' || who.access === 'lead';

/** Whether all of the agency's work is open to this access. */
export const isStaff = (who: Pick<Who, 'access'>): boolean => isLead(who) || who.access === 'member';

/** Methods that change nothing. */
export const READING = new Set(['GET', 'HEAD', 'OPTIONS']);

/** Whether a route needs no sign-in. */
export const isOpenRoute = (reflector: Reflector, places: Parameters<Reflector['getAllAndOverride']>[1]): boolean =>
  reflector.getAllAndOverride<boolean | undefined>(OPEN, places) === true;

/**
 * The one place where rights are checked: who is signed in, whether the request comes from
 * our own page, and whether this access may use the route. What somebody may see inside a
 * route is decided by `seenBy` in the queries.
 */
@Injectable()
export class RightsGuard implements CanActivate {
  private readonly reflector: Reflector;
  private readonly accounts: AccountRepository;

  constructor(reflector: Reflector, accounts: AccountRepository) {
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
    const allowed = this.reflector.getAllAndOverride<readonly Access[] | undefined>(ALLOWED, places) ?? [];
    if (!allowed.includes(who.access)) throw new Refusal('not-allowed', 'This is not open to you. Ask a lead of your agency.');
    return true;
  }

  private async whoIs(request: RequestOfSomebody): Promise<Who> {
    if (await endOutlived(request, Date.now()))
      throw new Refusal('not-signed-in', 'You have been signed in for 60 days. Sign in again to go on.');
    const accountId = request.session.accountId;
    const who = accountId === undefined ? null : await this.accounts.findWho(accountId);
    if (who === null) throw new Refusal('not-signed-in', 'You are not signed in. Sign in to go on.');
    renewSession(request, Date.now());
    return who;
  }
}

/** Before there is a session there is no token: a page of another site is known by its origin. */
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
