import { Controller, Get, Query } from '@nestjs/common';
import { ApiQuery, ApiTags } from '@nestjs/swagger';
import type { Workload } from '@crew/contract';
import { formatDay, parseDay, weekdayOf } from '@crew/core';
import { Clock } from '../platform/clock.ts';
import { Refusal } from '../platform/refusal.ts';
import { Allow, Caller, STAFF, type Who } from '../platform/rights.ts';
import { ReadWorkload } from './read-workload.ts';
import { Answers } from '../platform/answers.ts';

const THREE_WEEKS = 21;
const LONGEST_DAYS = 190;

@ApiTags('workload')
@Controller('workload')
export class WorkloadController {
  private readonly reading: ReadWorkload;
  private readonly clock: Clock;
  constructor(reading: ReadWorkload, clock: Clock) {
    this.reading = reading;
    this.clock = clock;
  }

  /** Hours planned against hours open per person and day; without dates, three weeks from this Monday. */
  @Get()
  @Answers('Workload')
  @Allow(STAFF)
  @ApiQuery({ name: 'from', required: false })
  @ApiQuery({ name: 'to', required: false })
  read(@Caller() who: Who, @Query('from') from?: string, @Query('to') to?: string): Promise<Workload> {
    const today = parseDay(this.clock.today()) as number;
    const first = from === undefined ? today - weekdayOf(today) : readDay(from, 'from');
    const last = to === undefined ? first + THREE_WEEKS - 1 : readDay(to, 'to');
    if (last < first) throw new Refusal('invalid-day', 'The last day lies before the first. Turn them round.', { field: 'to' });
    if (last - first > LONGEST_DAYS) throw new Refusal('invalid-day', 'Ask for at most 26 weeks at a time.', { field: 'to' });
    return this.reading.run(who, { from: formatDay(first), to: formatDay(last) });
  }
}

function readDay(text: string, field: string): number {
  const day = parseDay(text);
  if (day === null) throw new Refusal('invalid-day', `“${text}” is no calendar day. Write it as 2026-12-14.`, { field });
  return day;
}
