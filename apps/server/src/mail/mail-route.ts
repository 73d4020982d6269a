import { Inject, Injectable } from '@nestjs/common';
import type { MailSecurity } from '@crew/contract';
import { createTransport, type Transporter } from 'nodemailer';
import type { EntityManager } from 'typeorm';
import { CONFIG, type Config } from '../platform/config.ts';
import { firstRow } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import { Seal } from '../platform/seal.ts';
import { MailboxServer } from './mailbox-server.ts';

/** The agency's own mail server as it is kept. */
export interface KeptServer {
  readonly host: string;
  readonly port: number;
  readonly security: MailSecurity;
  readonly userName: string;
  readonly sealedPassword: string | null;
  readonly fromAddress: string;
  readonly replyDomain: string;
}

/** By which server mail goes out, and what its addresses are. */
export interface MailRoute {
  readonly host: string;
  readonly port: number;
  readonly security: MailSecurity;
  readonly user: string;
  readonly password: string | null;
  readonly fromAddress: string;
  readonly replyDomain: string;
  /** Where people open the app. */
  readonly appAddress: string;
}

const SERVER = `SELECT host, port, security, user_name AS "userName", sealed_password AS "sealedPassword", from_address AS "fromAddress", reply_domain AS "replyDomain"
  FROM mail_server WHERE agency_id = $1`;

/** A mail server that does not answer is given up after this time. */
const PATIENCE_MS = 15_000;

/** Finds the way mail goes: by the agency's own server, else as the process was told, else to the bundled mailboxes. */
@Injectable()
export class FindMailRoute {
  private readonly config: Config;
  private readonly seal: Seal;
  private readonly mailboxes: MailboxServer;
  constructor(@Inject(CONFIG) config: Config, seal: Seal, mailboxes: MailboxServer) {
    this.config = config;
    this.seal = seal;
    this.mailboxes = mailboxes;
  }

  findServer(manager: EntityManager, agencyId: string): Promise<KeptServer | null> {
    return firstRow<KeptServer>(manager, SERVER, [agencyId]);
  }

  /** Refuses where there is no server to send by, or its password cannot be read any more. */
  async run(manager: EntityManager, agencyId: string): Promise<MailRoute> {
    const kept = await this.findServer(manager, agencyId);
    const { domain, outgoing } = this.config.mail;
    const appAddress = this.config.address;
    if (kept === null) {
      const to = outgoing ?? (this.mailboxes.port === null ? null : { host: '127.0.0.1', port: this.mailboxes.port });
      if (to === null) throw new Refusal('wrong-moment', 'No mail server is set up. An owner can set one up under Settings, Mail server.');
      return { ...to, security: 'none', user: '', password: null, fromAddress: `studio@${domain}`, replyDomain: domain, appAddress };
    }
    const password = kept.sealedPassword === null ? null : this.seal.open(kept.sealedPassword);
    if (password === null && kept.sealedPassword !== null)
      throw new Refusal(
        'wrong-moment',
        'The password of the mail server can no longer be read. An owner has to enter it again under Settings, Mail server.',
      );
    const { host, port, security, userName: user, fromAddress, replyDomain } = kept;
    return { host, port, security, user, password, fromAddress, replyDomain, appAddress };
  }
}

/** A connection to send by; closing it is up to the caller. */
export function openTransport({ host, port, security, user, password }: MailRoute): Transporter {
  return createTransport({
    ...{ host, port, secure: security === 'tls', requireTLS: security === 'starttls', ignoreTLS: security === 'none' },
    ...(user === '' ? {} : { auth: { user, pass: password ?? '' } }),
    ...{ connectionTimeout: PATIENCE_MS, greetingTimeout: PATIENCE_MS, socketTimeout: PATIENCE_MS },
    // What is mailed was written here; nothing is read from a disk or a network on the way.
    ...{ disableFileAccess: true, disableUrlAccess: true },
  });
}
