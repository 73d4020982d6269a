import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put, Query } from '@nestjs/common';
import { ApiHeader, ApiTags } from '@nestjs/swagger';
import {
  AnswerMail,
  DeliverMail,
  OpenMailLink,
  SaveMailServer,
  type Mailbox,
  type MailboxMail,
  type MailAnswered,
  type MailLink,
  type MailPage,
  type MailServerView,
  type MailTried,
} from '@crew/contract';
import { Answers } from '../platform/answers.ts';
import { OptionalChoice, OptionalId, PathId } from '../platform/query-pipes.ts';
import { TakesLarge } from '../platform/read-body.ts';
import { Refusal } from '../platform/refusal.ts';
import { Allow, Caller, Open, type Who } from '../platform/rights.ts';
import { ByMailProvider, INCOMING_MAIL_HEADER } from './incoming-mail.guard.ts';
import { KeepMailServer } from './keep-mail-server.ts';
import { MOST_MAIL_BYTES } from './listen-for-mail.ts';
import { FollowMailLink } from './open-mail-link.ts';
import { ReadMailbox } from './read-mailbox.ts';
import { ReadSentMail, SENT_PART, type SentPart } from './read-sent-mail.ts';
import { TakeMail } from './take-mail.ts';

/** A mail in base64, with room for the rest of the request. */
const MOST_DELIVERED = Math.ceil((MOST_MAIL_BYTES * 4) / 3) + 10_000;

@ApiTags('mail')
@Controller('mail')
export class MailController {
  private readonly sent: ReadSentMail;
  private readonly boxes: ReadMailbox;
  private readonly servers: KeepMailServer;
  private readonly links: FollowMailLink;
  private readonly taking: TakeMail;
  constructor(sent: ReadSentMail, boxes: ReadMailbox, servers: KeepMailServer, links: FollowMailLink, taking: TakeMail) {
    this.sent = sent;
    this.boxes = boxes;
    this.servers = servers;
    this.links = links;
    this.taking = taking;
  }

  /** What was sent with what was answered (`only`: about engagements, answered, not delivered), the newest first, 50 at a time; `after` is the last mail of the page before. */
  @Get()
  @Answers('MailPage')
  @Allow('mail.read')
  list(
    @Caller() who: Who,
    @Query('only', new OptionalChoice(SENT_PART)) only: SentPart | undefined,
    @Query('handoff', OptionalId) handoffId: string | undefined,
    @Query('after', OptionalId) after: string | undefined,
  ): Promise<MailPage> {
    return this.sent.list(who, { only, handoffId, after });
  }

  /** Sends a mail again that could not be sent. */
  @Post(':id/retry')
  @HttpCode(204)
  @Allow('mail.read')
  retry(@Caller() who: Who, @Param('id', PathId) id: string): Promise<void> {
    return this.sent.retry(who, id);
  }

  /** The bundled mailboxes: one's own or, for leads and in the demo, that of any address. */
  @Get('boxes')
  @Answers('Mailbox')
  @Allow('mailbox.read')
  readBox(@Caller() who: Who, @Query('address') address: unknown): Promise<Mailbox> {
    if (address !== undefined && typeof address !== 'string') throw new Refusal('invalid-input', 'Give one address.', { field: 'address' });
    return this.boxes.list(who, address);
  }

  @Get('boxes/:id')
  @Answers('MailboxMail')
  @Allow('mailbox.read')
  readCaught(@Caller() who: Who, @Param('id', PathId) id: string): Promise<MailboxMail> {
    return this.boxes.read(who, id);
  }

  /** Answers a mail of a bundled mailbox as its reader's mail program would: by SMTP. */
  @Post('boxes/:id/answer')
  @HttpCode(200)
  @Answers('MailAnswered')
  @Allow('mailbox.read')
  answer(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: AnswerMail): Promise<MailAnswered> {
    return this.boxes.answer(who, id, input);
  }

  /** The action behind a link in a mail; it works once. */
  @Post('links/open')
  @HttpCode(200)
  @Answers('MailLink')
  @Allow('mail.open')
  open(@Caller() who: Who, @Body() input: OpenMailLink): Promise<MailLink> {
    return this.links.run(who, input);
  }

  @Get('server')
  @Answers('MailServerView')
  @Allow('mail.server')
  readServer(@Caller() who: Who): Promise<MailServerView> {
    return this.servers.read(who);
  }

  @Put('server')
  @Answers('MailServerView')
  @Allow('mail.server')
  saveServer(@Caller() who: Who, @Body() input: SaveMailServer): Promise<MailServerView> {
    return this.servers.save(who, input);
  }

  /** Mail goes to the bundled mailboxes again. */
  @Delete('server')
  @Answers('MailServerView')
  @Allow('mail.server')
  removeServer(@Caller() who: Who): Promise<MailServerView> {
    return this.servers.remove(who);
  }

  /** Sends a mail to the caller by a server that need not be saved; saves nothing. */
  @Post('server/try')
  @HttpCode(200)
  @Answers('MailTried')
  @Allow('mail.server')
  tryServer(@Caller() who: Who, @Body() input: SaveMailServer): Promise<MailTried> {
    return this.servers.try(who, input);
  }

  /**
   * Receives a mail from a mail provider, whole and in base64, with the secret of the mail server's
   * page in the header. 204 when it is accepted or can be ignored; delivered twice, it is kept once. A
   * refusal gives the reason in words its sender can be told.
   */
  @Post('incoming')
  @HttpCode(204)
  @Open()
  @ByMailProvider()
  @ApiHeader({ name: INCOMING_MAIL_HEADER, required: true, description: 'The secret shown on the mail server’s page.' })
  @TakesLarge({ bytes: MOST_DELIVERED })
  async deliver(@Body() { to, from, raw }: DeliverMail): Promise<void> {
    const why = await this.taking.run({ to: [to], from, raw: Buffer.from(raw, 'base64') });
    if (why !== null) throw new Refusal('not-allowed', why);
  }
}
