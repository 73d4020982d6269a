import { Inject, Injectable, Logger, type BeforeApplicationShutdown, type OnApplicationBootstrap } from '@nestjs/common';
import { CONFIG, type Config } from '../platform/config.ts';
import { listenForMail, type ListeningForMail } from './listen-for-mail.ts';
import { TakeMail } from './take-mail.ts';

/** Takes answers in by SMTP, on this machine: a mail server in front of it brings those of the reply domain here. */
@Injectable()
export class IncomingMailServer implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly config: Config;
  private readonly taking: TakeMail;
  private listening: ListeningForMail | null = null;
  constructor(@Inject(CONFIG) config: Config, taking: TakeMail) {
    this.config = config;
    this.taking = taking;
  }

  /** Where it listens; null while it does not. */
  get port(): number | null {
    return this.listening?.port ?? null;
  }

  async onApplicationBootstrap(): Promise<void> {
    const { incomingPort } = this.config.mail;
    if (incomingPort === null) return;
    this.listening = await listenForMail(incomingPort, {
      logger: new Logger('incoming mail'),
      takes: (address) => this.taking.refusalOf(address),
      take: (mail) => this.taking.run(mail),
    });
  }

  async beforeApplicationShutdown(): Promise<void> {
    await this.listening?.close();
  }
}
