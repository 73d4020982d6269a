import { createCipheriv, createDecipheriv, hkdfSync, randomBytes } from 'node:crypto';
import { Inject, Injectable } from '@nestjs/common';
import { CONFIG, type Config } from './config.ts';

/** Keeps secrets of others that have to be used again, such as a password of a mail server: sealed (AES-256-GCM) by a key that follows from the server's own secret. */
@Injectable()
export class Seal {
  private readonly key: Buffer;
  constructor(@Inject(CONFIG) config: Config) {
    this.key = Buffer.from(hkdfSync('sha256', config.sessionSecret, 'nimble-crew', 'sealed secrets', 32));
  }

  close(text: string): string {
    const nonce = randomBytes(12);
    const cipher = createCipheriv('aes-256-gcm', this.key, nonce);
    const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
    return Buffer.concat([nonce, cipher.getAuthTag(), sealed]).toString('base64');
  }

  /** Null when the server's secret is another than it was sealed with. */
  open(text: string): string | null {
    const all = Buffer.from(text, 'base64');
    const decipher = createDecipheriv('aes-256-gcm', this.key, all.subarray(0, 12)).setAuthTag(all.subarray(12, 28));
    try {
      return Buffer.concat([decipher.update(all.subarray(28)), decipher.final()]).toString('utf8');
    } catch {
      return null;
    }
  }
}
