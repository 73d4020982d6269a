import { Body, Controller, Delete, Get, HttpCode, Param, Post, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Throttle } from '@nestjs/throttler';
import {
  AskForLink,
  InvitePeople as InvitePeopleInput,
  UseLink,
  type AccessLinkFacts,
  type AccessLinkMade,
  type AccessLinkUsed,
  type PeopleInvited,
} from '@crew/contract';
import type { Request } from 'express';
import { Answers } from '../platform/answers.ts';
import { PathId } from '../platform/query-pipes.ts';
import { Allow, Caller, Open, type Who } from '../platform/rights.ts';
import { beginSession } from '../platform/session.ts';
import { AskForAccessLink } from './ask-for-access-link.ts';
import { InvitePeople } from './invite-people.ts';
import { UseAccessLink } from './use-access-link.ts';

/** Links are tried and asked for this often in a minute at most. */
const TRIES = { default: { limit: 10, ttl: 60_000 } };

@ApiTags('crew')
@Controller()
export class InvitationController {
  private readonly inviting: InvitePeople;
  private readonly asking: AskForAccessLink;
  private readonly links: UseAccessLink;
  constructor(inviting: InvitePeople, asking: AskForAccessLink, links: UseAccessLink) {
    this.inviting = inviting;
    this.asking = asking;
    this.links = links;
  }

  /** Adds people to the crew and sends each a link to choose a password; all of them or none. */
  @Post('invitations')
  @Answers('PeopleInvited')
  @Allow('crew.edit')
  invite(@Caller() who: Who, @Body() input: InvitePeopleInput): Promise<PeopleInvited> {
    return this.inviting.run(who, input.people);
  }

  /** The link somebody was sent, to pass on by hand. */
  @Get('crew/:id/access-link')
  @Answers('AccessLinkMade')
  @Allow('crew.edit')
  readLink(@Caller() who: Who, @Param('id', PathId) id: string): Promise<AccessLinkMade> {
    return this.inviting.read(who, id);
  }

  /** A new link for somebody: the invitation again, or for a forgotten password. The one before stops working. */
  @Post('crew/:id/access-link')
  @Answers('AccessLinkMade')
  @Allow('crew.edit')
  sendLink(@Caller() who: Who, @Param('id', PathId) id: string): Promise<AccessLinkMade> {
    return this.inviting.again(who, id);
  }

  /** Withdraws somebody's link. */
  @Delete('crew/:id/access-link')
  @HttpCode(204)
  @Allow('crew.edit')
  withdraw(@Caller() who: Who, @Param('id', PathId) id: string): Promise<void> {
    return this.inviting.withdraw(who, id);
  }

  /** Mails a link to choose a new password, where the address is known; the answer is the same where it is not. */
  @Post('access-links')
  @HttpCode(204)
  @Open()
  @Throttle(TRIES)
  ask(@Body() input: AskForLink): Promise<void> {
    return this.asking.run(input.email);
  }

  /** Whom a link to choose a password is for. */
  @Get('access-links/:token')
  @Answers('AccessLinkFacts')
  @Open()
  @Throttle(TRIES)
  read(@Param('token') token: string): Promise<AccessLinkFacts> {
    return this.links.read(token);
  }

  /** Chooses a password by a link, and signs in; an account with a second factor signs in itself. */
  @Post('access-links/:token')
  @Answers('AccessLinkUsed')
  @Open()
  @Throttle(TRIES)
  async use(@Param('token') token: string, @Body() input: UseLink, @Req() request: Request): Promise<AccessLinkUsed> {
    const { accountId, isSignedIn } = await this.links.run(token, input.password);
    if (isSignedIn) await beginSession(request, accountId);
    return { isSignedIn };
  }
}
