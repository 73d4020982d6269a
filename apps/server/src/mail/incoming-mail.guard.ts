import { Injectable, SetMetadata, type CanActivate, type ExecutionContext } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import type { Request } from 'express';
import { Refusal } from '../platform/refusal.ts';
import { MailSecrets } from './mail-secrets.ts';

const BY_PROVIDER = 'crew:by-mail-provider';
export const INCOMING_MAIL_HEADER = 'X-Crew-Mail-Secret';

/** A route for the mail provider alone, which knows the secret. */
export const ByMailProvider = () => SetMetadata(BY_PROVIDER, true);

/** Asks for the provider's secret before the body is read: a mail is large. */
@Injectable()
export class IncomingMailGuard implements CanActivate {
  private readonly reflector: Reflector;
  private readonly secrets: MailSecrets;
  constructor(reflector: Reflector, secrets: MailSecrets) {
    this.reflector = reflector;
    this.secrets = secrets;
  }

  canActivate(context: ExecutionContext): boolean {
    const places = [context.getHandler(), context.getClass()];
    if (this.reflector.getAllAndOverride<boolean | undefined>(BY_PROVIDER, places) !== true) return true;
    const given = context.switchToHttp().getRequest<Request>().get(INCOMING_MAIL_HEADER);
    if (given === undefined || !this.secrets.isIncoming(given))
      throw new Refusal('wrong-secret', `Send the secret of the mail server’s page in ${INCOMING_MAIL_HEADER}.`);
    return true;
  }
}
