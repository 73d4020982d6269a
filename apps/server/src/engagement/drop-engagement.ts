import { Injectable } from '@nestjs/common';
import type { DropEngagement as Input } from '@crew/contract';
import { record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { refreshEngagement } from '../schedule/refresh-engagement.ts';
import { lockVersion } from './edit-engagement.ts';

/** Ends an engagement before its time (the client said no, it is not a fit), and takes it up again. Nothing of it is lost. */
@Injectable()
export class DropEngagement {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  /** From now on nobody's day holds anything of it. Answers its version. */
  drop(who: Who, id: string, { version, reason }: Input): Promise<{ readonly version: number }> {
    return this.turn(who, { id, version, to: 'dropped', reason: reason.trim() });
  }

  /** As it was: a proposal as likely as before, or open work. */
  reopen(who: Who, id: string, version: number): Promise<{ readonly version: number }> {
    return this.turn(who, { id, version, to: 'open', reason: null });
  }

  private turn(
    who: Who,
    {
      id,
      version,
      to,
      reason,
    }: { readonly id: string; readonly version: number; readonly to: 'dropped' | 'open'; readonly reason: string | null },
  ): Promise<{ readonly version: number }> {
    return this.database.transaction(async (manager) => {
      const { state, name, likelihood } = await lockVersion(manager, who, { id, version });
      const isRunning = state === 'proposal' || state === 'open';
      if (to === 'dropped' && !isRunning) throw new Refusal('wrong-moment', `“${name}” is over already. There is nothing of it to drop.`);
      if (to === 'open' && state !== 'dropped') throw new Refusal('wrong-moment', `“${name}” was not dropped. It goes on as it is.`);
      const next = to === 'dropped' ? 'dropped' : likelihood < 100 ? 'proposal' : 'open';
      await rowsOf(manager, 'UPDATE engagement SET state = $2, version = version + 1 WHERE id = $1', [id, next]);
      const by = { actor: who, at: this.clock.now() };
      await refreshEngagement(manager, id, { today: this.clock.today(), by, changed: [] });
      const about = {
        engagementId: id,
        subject: 'engagement',
        subjectId: id,
        changes: [{ field: 'state', from: state, to: next }],
      } as const;
      await record(manager, by, [
        reason === null ? { ...about, kind: 'engagement-reopened' } : { ...about, kind: 'engagement-closed', payload: { reason } },
      ]);
      return { version: version + 1 };
    });
  }
}
