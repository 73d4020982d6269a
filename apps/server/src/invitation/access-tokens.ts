import { createHmac, hkdfSync, timingSafeEqual } from 'node:crypto';
import { Inject, Injectable } from '@nestjs/common';
import { CONFIG, type Config } from '../platform/config.ts';

const ID_HEX = 32;

/** The text in a link to choose a password: the link's id and a signature that follows from the server's secret (HMAC-SHA256). */
@Injectable()
export class AccessTokens {
  private readonly key: Buffer;
  private readonly address: string;
  constructor(@Inject(CONFIG) config: Config) {
    this.key = Buffer.from(hkdfSync('sha256', config.sessionSecret, 'nimble-crew', 'access links', 32));
    this.address = config.address;
  }

  /** The page somebody opens to choose a password. */
  linkFor(id: string): string {
    const plain = id.replaceAll('-', '');
    return `${this.address}/welcome/${plain}${this.sign(plain)}`;
  }

  /** The id in a token; null for one that was not made here. */
  read(token: string): string | null {
    if (!/^[0-9a-f]{96}$/.test(token)) return null;
    const id = token.slice(0, ID_HEX);
    if (!timingSafeEqual(Buffer.from(token.slice(ID_HEX)), Buffer.from(this.sign(id)))) return null;
    return id.replace(/^(.{8})(.{4})(.{4})(.{4})/, '$1-$2-$3-$4-');
  }

  private sign(plain: string): string {
    return createHmac('sha256', this.key).update(plain).digest('hex');
  }
}
