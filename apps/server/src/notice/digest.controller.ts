import { Controller, Get, HttpCode, Param, Post, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { Response } from 'express';
import { MailSecrets } from '../mail/mail-secrets.ts';
import { IgnoresBody } from '../platform/read-body.ts';
import { Refusal } from '../platform/refusal.ts';
import { Open } from '../platform/rights.ts';
import { KeepNotices } from './keep-notices.ts';

const page = (words: string, form: string): string => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><meta name="color-scheme" content="light dark">
<title>Digests</title></head><body><p>${words}</p>${form}</body></html>
`;

/**
 * Ends digests without signing in: by the link in one, or by the mail program (RFC 8058). Opening the
 * link alone changes nothing, because programs open links too.
 */
@ApiTags('notices')
@Controller('mail/unsubscribe')
export class DigestController {
  private readonly secrets: MailSecrets;
  private readonly keeping: KeepNotices;
  constructor(secrets: MailSecrets, keeping: KeepNotices) {
    this.secrets = secrets;
    this.keeping = keeping;
  }

  /** A page with one button. */
  @Get(':token')
  @Open()
  ask(@Param('token') token: string, @Res() response: Response): void {
    this.personOf(token);
    response.type('html').send(page('Stop the daily digest of Nimble Crew?', '<form method="post"><button>Stop digests</button></form>'));
  }

  /** Sent twice it changes nothing. */
  @Post(':token')
  @HttpCode(200)
  @Open()
  @IgnoresBody()
  async end(@Param('token') token: string, @Res() response: Response): Promise<void> {
    await this.keeping.endDigests(this.personOf(token));
    response.type('html').send(page('You get no more digests. Bring them back in the app, under Notices, Choose notices.', ''));
  }

  private personOf(token: string): string {
    const personId = this.secrets.read('unsubscribe', token);
    if (personId === null) throw new Refusal('not-found', 'This link is incomplete. Copy it from the mail again.');
    return personId;
  }
}
