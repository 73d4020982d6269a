import { createHmac, hkdfSync, timingSafeEqual } from 'node:crypto';
import { Inject, Injectable } from '@nestjs/common';
import { CONFIG, type Config } from '../platform/config.ts';

/** What a token of a mail is for; one is worth nothing as another. */
export type MailTokenFor = 'reply' | 'bounce' | 'open' | 'unsubscribe';

const SIGN_HEX = 20;
const ID_HEX = 32;

/**
 * Everything about mail that nobody may guess: the addresses answers go to, links, and the secret of the
 * incoming webhook. All of it follows from the server's secret.
 */
@Injectable()
export class MailSecrets {
  private readonly signing: Buffer;
  /** What a mail provider has to send along. */
  readonly incoming: string;
  constructor(@Inject(CONFIG) config: Config) {
    const keyFor = (use: string): Buffer => Buffer.from(hkdfSync('sha256', config.sessionSecret, 'nimble-crew', use, 32));
    this.signing = keyFor('mail tokens');
    this.incoming = keyFor('incoming mail').toString('base64url');
  }

  /** A text of 52 hexadecimal digits: the id and its signature. Letters of either case are taken back, as mail servers change them. */
  token(use: MailTokenFor, id: string): string {
    const plain = id.replaceAll('-', '');
    return plain + this.sign(use, plain);
  }

  /** The id in a token, or null for one that was not made here for this use. */
  read(use: MailTokenFor, token: string): string | null {
    const lower = token.toLowerCase();
    if (!/^[0-9a-f]{52}$/.test(lower)) return null;
    const id = lower.slice(0, ID_HEX);
    if (!timingSafeEqual(Buffer.from(lower.slice(ID_HEX)), Buffer.from(this.sign(use, id)))) return null;
    return `${id.slice(0, 8)}-${id.slice(8, 12)}-${id.slice(12, 16)}-${id.slice(16, 20)}-${id.slice(20)}`;
  }

  isIncoming(secret: string): boolean {
    const [given, wanted] = [Buffer.from(secret), Buffer.from(this.incoming)];
    return given.length === wanted.length && timingSafeEqual(given, wanted);
  }

  private sign(use: MailTokenFor, plain: string): string {
    return createHmac('sha256', this.signing).update(`${use} ${plain}`).digest('hex').slice(0, SIGN_HEX);
  }
}
