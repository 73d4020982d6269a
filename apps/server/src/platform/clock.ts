import type { IsoDay } from '@crew/core';
import { Inject, Injectable } from '@nestjs/common';
import { CONFIG, type Config } from './config.ts';

/** Today and now, asked for in one place. A fixed day (the demo, tests) keeps the real time of day, so that events keep their order. */
@Injectable()
export class Clock {
  private fixedDay: IsoDay | null;
  private fixedTime: string | null = null;
  private lastInstant = 0;
  private days = dayIn('UTC');
  private times = timeIn('UTC');

  constructor(@Inject(CONFIG) config: Pick<Config, 'today'>) {
    this.fixedDay = config.today;
  }

  /** The agency's time zone: its midnight begins the next day, wherever the server stands. */
  get zone(): string {
    return this.days.resolvedOptions().timeZone;
  }

  /** From now on days are those of this time zone, as `Europe/London`. */
  useZone(zone: string): void {
    this.days = dayIn(zone);
    this.times = timeIn(zone);
  }

  /** Today as an ISO day; `at` stands in for the present moment. */
  today(at = new Date()): IsoDay {
    return this.fixedDay ?? (this.days.format(at) as IsoDay);
  }

  /** Now as an instant on today's day; never twice the same. */
  now(): Date {
    const real = new Date();
    const at = this.fixedDay === null ? real.getTime() : Date.parse(`${this.fixedDay}T${this.fixedTime ?? real.toISOString().slice(11)}`);
    this.lastInstant = at > this.lastInstant || at < this.lastInstant - 3_600_000 ? at : this.lastInstant + 1;
    return new Date(this.lastInstant);
  }

  /** By how many milliseconds `now` is ahead of the real time: whole days, and only on a fixed day. */
  get aheadMs(): number {
    return this.fixedDay === null ? 0 : Date.parse(this.fixedDay) - Math.floor(Date.now() / DAY_MS) * DAY_MS;
  }

  /** The minute of the agency's day at an instant, 0 at midnight. */
  minuteOfDay(at: Date): number {
    const [hour = 0, minute = 0] = this.times.format(at).split(':').map(Number);
    return (hour % 24) * 60 + minute;
  }

  /** Moves the fixed day, and with `time` (as `09:30`, in Greenwich) the time of day; only the demo's maker lives through other days. */
  moveTo(day: IsoDay, time?: string): void {
    this.fixedDay = day;
    this.fixedTime = time === undefined ? null : `${time}:00.000Z`;
    this.lastInstant = 0;
  }
}

const DAY_MS = 86_400_000;

/** Canada writes its dates as ISO does. */
const dayIn = (zone: string): Intl.DateTimeFormat =>
  new Intl.DateTimeFormat('en-CA', { timeZone: zone, year: 'numeric', month: '2-digit', day: '2-digit' });

const timeIn = (zone: string): Intl.DateTimeFormat =>
  new Intl.DateTimeFormat('en-GB', { timeZone: zone, hour: '2-digit', minute: '2-digit', hourCycle: 'h23' });
