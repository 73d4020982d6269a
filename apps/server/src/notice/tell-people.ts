import { Injectable } from '@nestjs/common';
import type { NoticeKind } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { announceChange } from '../platform/announce.ts';
import type { Follower, PendingEvent } from '../platform/area.ts';
import { Clock } from '../platform/clock.ts';
import { rowsOf } from '../platform/database.ts';
import { addJob } from '../platform/job-names.ts';
import { mailTime, readMailed } from './mail-times.ts';
import { WRITE_NOTICES } from './who-is-told.ts';

interface Told {
  readonly id: string;
  readonly agencyId: string;
  readonly personId: string;
  readonly kind: NoticeKind;
  readonly mailDueAt: Date | null;
}

/** What somebody waits for is mailed at once; the rest may be read on the screen first, and goes into one mail. */
export const MAILED_ALONE: ReadonlySet<NoticeKind> = new Set(['handed-off', 'sent-back']);
const GATHER_MINUTES = 5;

const SET_DUE = `
  UPDATE notice n SET mail_due_at = x.due AT TIME ZONE $2 FROM jsonb_to_recordset($1) AS x(id uuid, due timestamp) WHERE n.id = x.id`;

/** Follows what happens and tells whom it concerns. */
@Injectable()
export class TellPeople implements Follower {
  private readonly clock: Clock;
  constructor(clock: Clock) {
    this.clock = clock;
  }

  async follow(manager: EntityManager, events: readonly PendingEvent[]): Promise<void> {
    const told = await rowsOf<Told>(manager, WRITE_NOTICES, [events.map(({ id }) => id)]);
    for (const agencyId of new Set(told.map((one) => one.agencyId))) {
      const people = new Set(told.filter((one) => one.agencyId === agencyId).map(({ personId }) => personId));
      await announceChange(manager, { agencyId, topics: [...people].map((id) => `notice:${id}` as const) });
    }
    await this.setMailTimes(
      manager,
      told.filter(({ mailDueAt }) => mailDueAt !== null),
    );
  }

  /** Mails wait for the working time of whoever reads them. */
  private async setMailTimes(manager: EntityManager, told: readonly Told[]): Promise<void> {
    if (told.length === 0) return;
    const at = { now: this.clock.now(), zone: this.clock.zone };
    const people = new Map((await readMailed(manager, [...new Set(told.map(({ personId }) => personId))], at)).map((one) => [one.id, one]));
    const times = told.map(({ id, personId, kind }) => {
      const reader = people.get(personId);
      const due = reader === undefined ? null : mailTime(reader, MAILED_ALONE.has(kind) ? 0 : GATHER_MINUTES);
      return { id, due, isNow: reader !== undefined && due !== null && due <= reader.now };
    });
    await rowsOf(manager, SET_DUE, [JSON.stringify(times), at.zone]);
    // Other processes' notices are found by the job of each minute.
    if (times.some(({ isNow }) => isNow)) await addJob(manager, { name: 'mail-notices', payload: {}, key: 'mail-notices' });
  }
}
