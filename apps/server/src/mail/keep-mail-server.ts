import { Inject, Injectable } from '@nestjs/common';
import type { FieldChange, MailServerView, MailTried, SaveMailServer } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record } from '../activity/record.ts';
import { CONFIG, type Config } from '../platform/config.ts';
import { Clock } from '../platform/clock.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { lockAgency } from '../platform/locks.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { Seal } from '../platform/seal.ts';
import { IncomingMailServer } from './incoming-mail-server.ts';
import { FindMailRoute, openTransport, type KeptServer } from './mail-route.ts';
import { MailSecrets } from './mail-secrets.ts';

const FAULTS = `SELECT address, why, at FROM mail_fault WHERE agency_id = $1 ORDER BY at DESC`;

const SAVE = `
  INSERT INTO mail_server (agency_id, host, port, security, user_name, sealed_password, from_address, reply_domain) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)
  ON CONFLICT (agency_id) DO UPDATE SET host = excluded.host, port = excluded.port, security = excluded.security, user_name = excluded.user_name,
    sealed_password = excluded.sealed_password, from_address = excluded.from_address, reply_domain = excluded.reply_domain`;

/** By which server mail goes out. An owner sets it and tries it with a mail to themselves. */
@Injectable()
export class KeepMailServer {
  private readonly config: Config;
  private readonly database: Database;
  private readonly routes: FindMailRoute;
  private readonly incoming: IncomingMailServer;
  private readonly secrets: MailSecrets;
  private readonly seal: Seal;
  private readonly clock: Clock;
  constructor(
    @Inject(CONFIG) config: Config,
    database: Database,
    routes: FindMailRoute,
    incoming: IncomingMailServer,
    secrets: MailSecrets,
    seal: Seal,
    clock: Clock,
  ) {
    this.config = config;
    this.database = database;
    this.routes = routes;
    this.incoming = incoming;
    this.secrets = secrets;
    this.seal = seal;
    this.clock = clock;
  }

  async read(who: Who): Promise<MailServerView> {
    const [kept, faults] = await Promise.all([
      this.routes.findServer(this.database.manager, who.agencyId),
      this.database.rows<{ address: string; why: string; at: Date }>(FAULTS, [who.agencyId]),
    ]);
    const { domain } = this.config.mail;
    const { port } = this.incoming;
    return {
      server: kept === null ? null : shownOf(kept),
      fromAddress: kept?.fromAddress ?? `studio@${domain}`,
      replyDomain: kept?.replyDomain ?? domain,
      incoming: {
        smtp: port === null ? null : `127.0.0.1:${port}`,
        url: `${this.config.address}/api/mail/incoming`,
        secret: this.secrets.incoming,
      },
      faults: faults.map(({ address, why, at }) => ({ address, why, at: at.toISOString() })),
    };
  }

  async save(who: Who, input: SaveMailServer): Promise<MailServerView> {
    await this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      const before = await this.routes.findServer(manager, who.agencyId);
      const sealed = this.sealedOf(input, before);
      const { host, port, security, user, fromAddress, replyDomain } = input;
      await rowsOf(manager, SAVE, [who.agencyId, host, port, security, user, sealed, fromAddress, replyDomain.toLowerCase()]);
      const after = await this.routes.findServer(manager, who.agencyId);
      await this.recordChange(manager, who, { before, after });
    });
    return this.read(who);
  }

  /** Mail goes to the bundled mailboxes again. */
  async remove(who: Who): Promise<MailServerView> {
    await this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      const before = await this.routes.findServer(manager, who.agencyId);
      await rowsOf(manager, 'DELETE FROM mail_server WHERE agency_id = $1', [who.agencyId]);
      await this.recordChange(manager, who, { before, after: null });
    });
    return this.read(who);
  }

  /** Sends a mail to whoever asks, by a server that need not be saved; saves nothing. */
  async try(who: Who, input: SaveMailServer): Promise<MailTried> {
    const to = await this.database.row<{ email: string }>('SELECT email FROM account WHERE id = $1', [who.accountId]);
    if (to === null) throw new Refusal('wrong-moment', 'You have no address to send a mail to.');
    const before = await this.routes.findServer(this.database.manager, who.agencyId);
    const sealed = this.sealedOf(input, before);
    const password = sealed === null ? null : this.seal.open(sealed);
    const { host, port, security, user, fromAddress, replyDomain } = input;
    const transport = openTransport({
      ...{ host, port, security, user, password, fromAddress, replyDomain, appAddress: this.config.address },
    });
    try {
      await transport.sendMail({
        from: { name: who.agencyName, address: fromAddress },
        to: to.email,
        subject: `${who.agencyName}: the mail server works`,
        text: `This mail was sent by ${host} on port ${port} to try it.\n`,
        headers: { 'Auto-Submitted': 'auto-generated' },
      });
      return { isSent: true, said: `${host} accepted a mail to ${to.email}. Check that it arrives.` };
    } catch (error) {
      return { isSent: false, said: `${host} did not take the mail: ${(error as Error).message}` };
    } finally {
      transport.close();
    }
  }

  private sealedOf({ password }: SaveMailServer, before: KeptServer | null): string | null {
    if (password === undefined) return before?.sealedPassword ?? null;
    return password === null || password === '' ? null : this.seal.close(password);
  }

  private async recordChange(
    manager: EntityManager,
    who: Who,
    { before, after }: { readonly before: KeptServer | null; readonly after: KeptServer | null },
  ): Promise<void> {
    const changes = FIELDS.filter((field) => before?.[field] !== after?.[field]).map((field): FieldChange => ({
      field,
      from: before?.[field] ?? null,
      to: after?.[field] ?? null,
    }));
    const isNewPassword = before?.sealedPassword !== after?.sealedPassword;
    if (changes.length === 0 && !isNewPassword) return;
    await record(manager, { actor: who, at: this.clock.now() }, [
      { kind: 'settings-changed', engagementId: null, subject: 'agency', subjectId: who.agencyId, changes },
    ]);
  }
}

/** What the history says of a mail server; never its password. */
const FIELDS = ['host', 'port', 'security', 'userName', 'fromAddress', 'replyDomain'] as const;

const shownOf = ({ host, port, security, userName, sealedPassword }: KeptServer): NonNullable<MailServerView['server']> => ({
  ...{ host, port, security, user: userName, hasPassword: sealedPassword !== null },
});
