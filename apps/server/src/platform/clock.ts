import { Inject, Injectable } from '@nestjs/common';
import { formatDay } from '@crew/core';
import { CONFIG, type Config } from './config.ts';

/**
 * Today and now, asked for in one place. A fixed day (the demo, tests) keeps the real time
 * of day, so that what happens in a row stays in a row.
 */
@Injectable()
export class Clock {
  private fixedDay: string | null;
  private lastInstant = 0;

  constructor(@Inject(CONFIG) config: Pick<Config, 'today'>) {
    this.fixedDay = config.today;
  }

  /** Today as an ISO day. */
  today(): string {
    return this.fixedDay ?? formatDay(Math.floor((Date.now() - new Date().getTimezoneOffset() * 60_000) / 86_400_000));
  }

  /** Now as an instant on today's day; never twice the same. */
  now(): Date {
    const real = new Date();
    const at = this.fixedDay === null ? real.getTime() : Date.parse(`${this.fixedDay}T${real.toISOString().slice(11)}`);
    this.lastInstant = at > this.lastInstant || at < this.lastInstant - 3_600_000 ? at : this.lastInstant + 1;
    return new Date(this.lastInstant);
  }

  /** Moves the fixed day; only the demo's maker lives through other days. */
  moveTo(day: string): void {
    this.fixedDay = day;
    this.lastInstant = 0;
  }
}
