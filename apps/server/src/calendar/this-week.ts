import { Injectable } from '@nestjs/common';
import { compileCalendar, currentWeek, type IsoDay } from '@crew/core';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { unwrap } from '../platform/refusal.ts';
import { readCalendar } from './read-calendar.ts';

/** What “this week” means: the one today is in, or on a day the agency is closed the one in which it opens next. */
@Injectable()
export class ThisWeek {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  /** From Monday to Sunday. */
  async run(agencyId: string): Promise<{ readonly from: IsoDay; readonly to: IsoDay }> {
    return currentWeek(unwrap(compileCalendar(await readCalendar(this.database.manager, agencyId))), this.clock.today());
  }
}
