import { IsBoolean, IsEmail, IsIn, IsInt, IsString, Matches, Max, MaxLength, Min } from 'class-validator';
import { MAIL_SECURITY, type MailSecurity } from './mail.ts';
import { IsLine, MayBeLeftOut, MayBeNull } from './rules.ts';

const HOST = /^(?:[a-z0-9](?:[a-z0-9-]*[a-z0-9])?)(?:\.[a-z0-9](?:[a-z0-9-]*[a-z0-9])?)*$/i;

/** The mail server the agency sends by. */
export class SaveMailServer {
  @MaxLength(253, { message: 'Keep the host to 253 characters.' })
  @Matches(HOST, { message: 'Give the name of the mail server, such as smtp.example.com.' })
  host!: string;

  @IsInt({ message: 'Give the port as a whole number.' })
  @Min(1, { message: 'A port is between 1 and 65 535.' })
  @Max(65_535, { message: 'A port is between 1 and 65 535.' })
  port!: number;

  @IsIn(MAIL_SECURITY, { message: 'Choose how the connection is protected.' })
  security!: MailSecurity;

  /** Empty for a server that asks for none. */
  @IsString({ message: 'The user is text.' })
  @MaxLength(200, { message: 'Keep the user to 200 characters.' })
  user!: string;

  /** Left out, the one saved before stays; null for none. */
  @MayBeLeftOut()
  @MayBeNull()
  @IsString({ message: 'The password is text.' })
  @MaxLength(500, { message: 'Keep the password to 500 characters.' })
  password?: string | null;

  @IsEmail({}, { message: 'Give the address mails come from, such as studio@example.com.' })
  @MaxLength(200, { message: 'Keep the address to 200 characters.' })
  fromAddress!: string;

  /** The domain whose mail is received by this server, for replies. */
  @MaxLength(200, { message: 'Keep the domain to 200 characters.' })
  @Matches(HOST, { message: 'Give a domain, such as reply.example.com.' })
  replyDomain!: string;
}

/** An answer to a mail in one of the mailboxes. */
export class AnswerMail {
  @IsString({ message: 'Write an answer.' })
  @IsLine(50_000, 'an answer')
  text!: string;
}

/** The token of a link in a mail. */
export class OpenMailLink {
  @Matches(/^[0-9a-f]{52}$/, { message: 'This link is incomplete. Copy it from the mail again.' })
  token!: string;
}

/** A mail that came in, as a mail provider delivers it. */
export class DeliverMail {
  /** The recipient on the envelope. */
  @IsLine(320, 'the recipient')
  to!: string;

  /** The sender on the envelope; empty for reports of mail servers. */
  @IsString({ message: 'The sender is text.' })
  @MaxLength(320, { message: 'Keep the sender to 320 characters.' })
  from!: string;

  /** The whole mail (RFC 5322) in base64. */
  @Matches(/^[A-Za-z0-9+/\s]+={0,2}\s*$/, { message: 'Send the whole mail in base64.' })
  raw!: string;
}

/** When one is mailed. */
export class ChooseMailing {
  /** Whether mails wait for one's own working hours. */
  @MayBeLeftOut()
  @IsBoolean({ message: 'Quiet is yes or no.' })
  isQuiet?: boolean;

  /** Whether the daily digest is sent. */
  @MayBeLeftOut()
  @IsBoolean({ message: 'Digest is yes or no.' })
  hasDigest?: boolean;
}
