import { Injectable } from '@nestjs/common';
import type { FieldChange, NoticeAbout, NoticeGroup, NoticeKind, NoticeLine, Notices, ReminderOf, TaskRoom } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { FindRoom } from '../desk/find-room.ts';
import { Clock } from '../platform/clock.ts';
import { Database, rowsOf } from '../platform/database.ts';
import type { Who } from '../platform/rights.ts';
import { ENGAGEMENT_IN_COLOUR, standInFor } from '../platform/sql-words.ts';
import { USUAL_MINUTES } from '../task/query/task-columns.ts';

/** What was read stays in the list for so long. */
const READ_DAYS = 7;
/** More are not shown at once; the count of the unread ones counts all. */
const MOST_SHOWN = 200;

const ABOUT = `CASE
  WHEN t.id IS NOT NULL THEN json_build_object('kind', 'task', 'id', t.id, 'title', t.title, 'status', t.status, 'due', t.due_day,
    'minutes', greatest(0, coalesce(t.estimate_minutes, g.default_minutes) - t.logged_minutes), 'doneOn', t.done_on,
    'isLogged', EXISTS (SELECT 1 FROM time_entry x WHERE x.task_id = t.id AND x.person_id = $1), 'usualMinutes', CASE WHEN t.status = 'done' THEN ${USUAL_MINUTES} END, 'room', NULL)
  WHEN h.id IS NOT NULL THEN json_build_object('kind', 'handoff', 'id', h.id, 'from', p.name, 'to', next.name, 'state', h.state, 'version', h.version,
    'isReceiver', coalesce(h.receiver_id = $1 OR ${standInFor('h.receiver_id', { otherwise: 'e.lead_id', day: '($2::timestamptz AT TIME ZONE g.zone)::date' })} = $1, false),
    'question', h.question)
  WHEN v.subject = 'person' THEN json_build_object('kind', 'person', 'id', v.subject_id, 'title', v.facts->>'name')
  ELSE json_build_object('kind', 'engagement', 'id', e.id, 'title', e.name) END`;

const NOTICES = `
  SELECT n.id, n.kind, n.read_at IS NOT NULL AS "isRead", v.at, v.kind AS event, v.batch_id AS "batchId", v.payload, v.changes,
    coalesce(v.payload->>'holder', v.payload->>'from', v.facts->>'task', v.facts->>'phase') AS name, ${ABOUT} AS about,
    CASE WHEN e.id IS NOT NULL THEN ${ENGAGEMENT_IN_COLOUR} END AS engagement,
    CASE WHEN w.id IS NOT NULL OR k.id IS NOT NULL THEN json_build_object('name', coalesce(w.name, k.name), 'initials', coalesce(w.initials, k.initials)) END AS by, v.actor_kind = 'rule' AS "isByRule"
  FROM notice n JOIN event v ON v.id = n.event_id JOIN agency g ON g.id = n.agency_id
  LEFT JOIN event cause ON cause.id = v.cause_id
  LEFT JOIN account y ON y.id = coalesce(v.account_id, cause.account_id) LEFT JOIN person w ON w.id = y.person_id LEFT JOIN contact k ON k.id = y.contact_id
  LEFT JOIN engagement e ON e.id = n.engagement_id LEFT JOIN client c ON c.id = e.client_id
  LEFT JOIN task t ON t.id = n.task_id
  LEFT JOIN handoff h ON h.id = n.handoff_id LEFT JOIN phase p ON p.id = h.from_phase_id LEFT JOIN phase next ON next.id = h.to_phase_id
  WHERE n.person_id = $1 AND (n.handoff_id IS NULL OR v.undone_by_id IS NULL) AND CASE WHEN $3::uuid[] IS NULL
    THEN n.on_screen AND (n.read_at IS NULL OR n.read_at > $2::timestamptz - interval '${READ_DAYS} days') AND (n.snoozed_until IS NULL OR n.snoozed_until <= $2)
    ELSE n.id = ANY($3) END
  ORDER BY n.event_id DESC LIMIT ${MOST_SHOWN}`;

const SNOOZED = `
  SELECT json_agg(id) AS ids, min(snoozed_until) AS until FROM notice n WHERE person_id = $1 AND on_screen AND read_at IS NULL AND snoozed_until > $2
    AND (handoff_id IS NULL OR NOT EXISTS (SELECT 1 FROM event v WHERE v.id = n.event_id AND v.undone_by_id IS NOT NULL))`;

interface Snoozed {
  readonly ids: readonly string[] | null;
  readonly until: Date | null;
}

interface Row {
  readonly id: string;
  readonly kind: NoticeKind;
  readonly isRead: boolean;
  readonly at: Date;
  readonly event: string;
  readonly batchId: string | null;
  readonly payload: Readonly<Record<string, unknown>>;
  readonly changes: readonly FieldChange[];
  readonly name: string | null;
  readonly about: NoticeAbout;
  readonly engagement: NoticeGroup['engagement'];
  readonly by: NoticeLine['by'];
  readonly isByRule: boolean;
}

/** What concerns one, grouped by the thing it is about. */
@Injectable()
export class ReadNotices {
  private readonly database: Database;
  private readonly room: FindRoom;
  private readonly clock: Clock;
  constructor(database: Database, room: FindRoom, clock: Clock) {
    this.database = database;
    this.room = room;
    this.clock = clock;
  }

  async run(who: Who): Promise<Notices> {
    const values = [who.personId, this.clock.now()];
    const [rows, later] = await Promise.all([
      this.database.rows<Row>(NOTICES, [...values, null]),
      this.database.row<Snoozed>(SNOOZED, values),
    ]);
    const groups = await this.withRoom(who, groupsOf(rows));
    return {
      unread: groups.flatMap(({ lines }) => lines).filter(({ isRead }) => !isRead).length,
      groups,
      snoozed: later === null || later.until === null ? null : { ids: later.ids ?? [], until: later.until.toISOString() },
    };
  }

  private async withRoom({ agencyId, personId }: Who, groups: readonly NoticeGroup[]): Promise<NoticeGroup[]> {
    const wanted = groups.filter(({ about, lines }) => about.kind === 'task' && lines.some(({ kind }) => TO_PLAN.has(kind)));
    const ids = wanted.map(({ about }) => about.id);
    const rooms = personId === null ? new Map<string, TaskRoom>() : await this.room.run(agencyId, personId, ids);
    return groups.map((group) =>
      group.about.kind === 'task' ? { ...group, about: { ...group.about, room: rooms.get(group.about.id) ?? null } } : group,
    );
  }
}

/** For these kinds the notice says where the task fits. */
const TO_PLAN: ReadonlySet<NoticeKind> = new Set(['assigned', 'ready', 'moved']);

/** Some notices of one person, grouped as on the screen; for mails. */
export async function readGroups(
  manager: EntityManager,
  { personId, ids, now }: { readonly personId: string; readonly ids: readonly string[]; readonly now: Date },
): Promise<readonly NoticeGroup[]> {
  return groupsOf(await rowsOf<Row>(manager, NOTICES, [personId, now, ids]));
}

/** So many tasks that one change assigned to somebody are one line: a whole phase is no list to tick off. */
const MANY = 4;

/** The things in the order of their newest line. */
function groupsOf(rows: readonly Row[]): NoticeGroup[] {
  const sizes = new Map<string, number>();
  for (const row of rows) sizes.set(changeKey(row), (sizes.get(changeKey(row)) ?? 0) + 1);
  const groups = new Map<string, { readonly about: NoticeAbout; readonly rows: Row[] }>();
  for (const row of rows) {
    const isMany = row.about.kind === 'task' && row.batchId !== null && (sizes.get(changeKey(row)) ?? 0) >= MANY;
    const about = isMany && row.engagement !== null ? wholeOf(row.engagement) : row.about;
    const key = `${about.kind} ${about.id}`;
    const group = groups.get(key) ?? { about, rows: [] };
    group.rows.push(row);
    groups.set(key, group);
  }
  return [...groups.values()].map((group) => ({
    about: group.about,
    engagement: (group.rows[0] as Row).engagement,
    lines: linesOf(group.rows),
  }));
}

/** What one change told of tasks, of one kind. */
const changeKey = ({ batchId, kind, about }: Row): string => `${batchId} ${kind} ${about.kind}`;

const wholeOf = ({ id, name }: NonNullable<NoticeGroup['engagement']>): NoticeAbout => ({ kind: 'engagement', id, title: name });

/** What one change did, or what the same people did again and again, is one line: the newest, from what it was at first. */
function linesOf(rows: readonly Row[]): NoticeLine[] {
  const lines = new Map<string, Row[]>();
  for (const row of rows) {
    const key = JOINED.has(row.kind) ? `${row.kind} ${row.isRead}` : `${row.kind} ${row.batchId ?? row.id}`;
    lines.set(key, [...(lines.get(key) ?? []), row]);
  }
  return [...lines.values()].map(toLine);
}

/** For these kinds only the first and the last value matter. */
const JOINED: ReadonlySet<NoticeKind> = new Set(['ready', 'moved', 'status', 'promise', 'reminder', 'overdue', 'unlogged']);

function toLine(rows: readonly Row[]): NoticeLine {
  const [newest, oldest] = [rows[0] as Row, rows.at(-1) as Row];
  const changed = changeOf(newest);
  return {
    ids: rows.map(({ id }) => id),
    things: new Set(rows.map(({ about }) => about.id)).size,
    kind: newest.kind,
    event: newest.event,
    at: newest.at.toISOString(),
    isRead: rows.every(({ isRead }) => isRead),
    by: newest.by,
    isByRule: newest.isByRule,
    words: textIn(newest.payload, 'words') ?? textIn(newest.payload, 'reason'),
    name: newest.name,
    minutes: typeof newest.payload['minutes'] === 'number' ? newest.payload['minutes'] : null,
    reminderOf: newest.event === 'reminded' ? ((newest.payload['of'] as ReminderOf | undefined) ?? 'handoff') : null,
    change: changed === null ? null : { from: (changeOf(oldest) ?? changed).from, to: changed.to },
  };
}

const FIELD: Partial<Readonly<Record<NoticeKind, string>>> = { moved: 'dueDay', promise: 'promise', status: 'status', ready: 'status' };

function changeOf({ kind, changes }: Row): NoticeLine['change'] {
  const change = changes.find(({ field }) => field === FIELD[kind]);
  const text = (value: unknown): string | null => (typeof value === 'string' ? value : null);
  return change === undefined ? null : { from: text(change.from), to: text(change.to) };
}

function textIn(payload: Row['payload'], field: string): string | null {
  const text = payload[field];
  return typeof text === 'string' && text !== '' ? text : null;
}
