import type { AddressInfo } from 'node:net';
import type { Logger } from '@nestjs/common';
import { SMTPServer, type SMTPServerDataStream } from 'smtp-server';

/** A mail as it comes over the wire. */
export interface DeliveredMail {
  /** Who sends it, on the envelope; empty for reports of mail servers. */
  readonly from: string;
  readonly to: readonly string[];
  /** The whole of it, as in RFC 5322. */
  readonly raw: Buffer;
}

export interface ListeningForMail {
  readonly port: number;
  readonly close: () => Promise<void>;
}

interface Taking {
  readonly logger: Logger;
  /** Why nothing is taken for an address; null when it is. */
  readonly takes: (address: string) => string | null;
  /** Why a mail is refused; null when it is taken. */
  readonly take: (mail: DeliveredMail) => Promise<string | null>;
}

/** Larger mails are refused. */
export const MOST_MAIL_BYTES = 25_000_000;

/** Answers of SMTP (RFC 5321): refused for good, or for now. */
const smtpError = (message: string, responseCode: number): Error => Object.assign(new Error(message), { responseCode });

/** Listens for mail on a port of this machine; 0 is any that is free. */
export async function listenForMail(port: number, { logger, takes, take }: Taking): Promise<ListeningForMail> {
  const server = new SMTPServer({
    // Whoever is on this machine may deliver; what is taken is decided by the address and by who wrote.
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    size: MOST_MAIL_BYTES,
    disableReverseLookup: true,
    logger: false,
    onRcptTo: ({ address }, _session, done) => {
      const why = takes(address);
      done(why === null ? null : smtpError(why, 550));
    },
    onData: (stream, { envelope }, done) => {
      readAll(stream)
        .then(async (raw) => {
          if (stream.sizeExceeded) return done(smtpError('This mail is larger than 25 MB.', 552));
          const why = await take({
            from: envelope.mailFrom === false ? '' : envelope.mailFrom.address,
            to: envelope.rcptTo.map(({ address }) => address),
            raw,
          });
          done(why === null ? null : smtpError(why, 550));
        })
        .catch((error: unknown) => {
          logger.error(error instanceof Error ? error.stack : String(error));
          done(smtpError('This mail cannot be accepted now. Try again later.', 451));
        });
    },
  });
  server.on('error', (error) => logger.warn(String(error)));
  await new Promise<void>((resolve, reject) => {
    server.server.once('error', reject);
    server.listen(port, '127.0.0.1', () => resolve());
  });
  return {
    port: (server.server.address() as AddressInfo).port,
    close: () => new Promise((resolve) => server.close(() => resolve())),
  };
}

async function readAll(stream: SMTPServerDataStream): Promise<Buffer> {
  const parts: Buffer[] = [];
  for await (const part of stream as AsyncIterable<Buffer>) parts.push(part);
  return Buffer.concat(parts);
}
