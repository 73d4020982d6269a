import { ERRORS, type ErrorBody } from '@crew/contract';
import type { Test } from 'supertest';
import { INCOMING_MAIL_HEADER } from '../src/mail/incoming-mail.guard.ts';
import { MailSecrets } from '../src/mail/mail-secrets.ts';
import { startSmall, type Caller, type Harness } from './harness.ts';

/** The smallest PNG there is, in base64. */
export const PIXEL = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';

/** What a mail provider sends along. */
let incomingSecret = '';

/** An id of nothing. */
export const UNKNOWN = '00000000-0000-4000-8000-000000000000';

/** A route with a body that it takes when all is well, with ids that exist. */
export interface Body {
  readonly path: string;
  readonly body: Readonly<Record<string, unknown>>;
}

/** Every route that takes a body, by method and address as the description of the API writes them. */
export async function everyBody(harness: Harness, lead: Caller): Promise<Readonly<Record<string, Body>>> {
  const id = await startSmall(lead, harness);
  const plan = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as {
    tasks: { id: string; title: string }[];
    phases: { id: string; handoffId: string }[];
  };
  const task = plan.tasks.find(({ title }) => title === 'Sketch')?.id ?? '';
  const sheet = (await lead.get(`/tasks/${task}`).expect(200)).body as { steps: { id: string }[] };
  const [phase, handoff] = [plan.phases[0]?.id, plan.phases[0]?.handoffId];
  const check = await harness.database.row<{ id: string }>(`SELECT id FROM gate_check WHERE phase_id = $1 AND kind = 'word'`, [phase]);
  const role = await harness.database.row<{ id: string }>(`SELECT id FROM role WHERE name = 'Maker'`);
  const { template, client, people } = harness.ids;
  const server = {
    ...{ host: '127.0.0.1', port: 1, security: 'none', user: 'studio', password: 'secret' },
    ...{ fromAddress: 'studio@small.example', replyDomain: 'reply.small.example' },
  };
  incomingSecret = harness.app.get(MailSecrets).incoming;
  const planned = {
    templateId: template,
    start: '2026-12-01',
    promise: '2027-02-01',
    clientId: client,
    withoutPhases: [],
    withoutTasks: [],
    withoutDeliverables: [],
    roles: [{ roleId: role?.id, personId: null }],
  };
  const field = (await lead.post('/custom-fields', { name: 'Size', kind: 'text' }).expect(201)).body as { id: string };
  const file = (await lead.post('/files').attach('file', Buffer.from('words'), 'words.txt').expect(201)).body as { id: string };
  const own = { customFields: [{ fieldId: field.id, value: 'A2' }], pageLinks: [{ title: 'How', url: 'https://example.org' }] };
  const edit = {
    ...own,
    fileIds: [file.id],
    ...{ version: 1, title: 'Sketch', description: '', status: 'waiting', waitingOn: 'client', assigneeIds: [], fixedDay: '2026-12-01' },
    ...{
      days: 2,
      estimateMinutes: 60,
      priority: 'normal',
      isShownToClient: false,
      isChargeable: true,
      mayStartEarly: false,
      notBefore: null,
      after: [],
      deliverableId: null,
      labels: ['a'],
    },
    outside: { maker: 'M', turnaroundDays: 5, bufferDays: 2, neededOn: null, state: 'to-brief' },
  };
  await lead.post(`/tasks/${task}/time`, { day: '2026-11-23', minutes: 5 }).expect(201);
  const entry = (await harness.database.row<{ id: string }>('SELECT id FROM time_entry'))?.id ?? '';
  const ink = plan.tasks.find(({ title }) => title === 'Ink')?.id ?? '';
  const change = {
    ...{ ...edit, id: ink, version: 1, shiftDays: 1, phaseId: phase, parentId: null, beforeId: null, isDeleted: false },
    after: [{ taskId: task, type: 'FS', lag: 0 }],
  };
  const { content: kept } = (await lead.get(`/templates/${template}/content`).expect(200)).body as {
    content: { phases: { id: string }[]; tasks: object[] };
  };
  const [first, ...rest] = kept.tasks;
  const content = { ...kept, tasks: [{ ...first, ...own, files: [{ fileId: file.id, name: 'words.txt', bytes: 5 }] }, ...rest] };
  const exported = (await lead.get(`/templates/${template}/export`).expect(200)).body as object;
  const cut = plan.tasks.find(({ title }) => title === 'Cut')?.id ?? '';
  const weekly = { rule: 'FREQ=WEEKLY;BYDAY=MO', onClosed: 'after' };
  const begin = {
    ...{
      kind: 'line',
      name: 'Line',
      unitName: 'Unit {n}',
      clientId: client,
      contactId: UNKNOWN,
      templateId: template,
      firstDay: '2026-12-07',
    },
    ...{ ...weekly, each: 1, places: 'start', roles: planned.roles, retainerMinutes: null, carry: 'none', aheadDays: 7 },
  };
  const repeated = (await lead.post(`/tasks/${cut}/series`, weekly).expect(201)).body as { id: string };
  const { contactId: _, ...known } = begin;
  const line = (await lead.post('/series', known).expect(201)).body as { id: string };
  const taking = { templateId: template, phaseIds: [kept.phases[0]?.id], phaseId: phase };
  const contact = { name: 'K', email: 'k@small.example', phone: '1', notes: 'N' };
  const about = { version: 1, name: 'E', promise: '2027-03-01', leadId: people['Lena'], contactId: UNKNOWN, likelihood: 100 };
  const adding = { phaseId: phase, parentId: ink, title: 'T', days: 1, estimateMinutes: 60 };
  const says = { when: { kind: 'handed-off', slots: {} }, if: [], then: [{ do: 'tell', slots: { who: { by: 'lead' }, text: 'Look' } }] };
  const fields = { access: 'member', roles: ['Maker'], week: [0, 0, 0, 0, 0, 0, 0] };
  return {
    'POST /session': { path: '/session', body: { email: 'lena@small.example', password: 'x', code: '' } },
    'POST /session/demo': { path: '/session/demo', body: { accountId: UNKNOWN } },
    'POST /agency': {
      path: '/agency',
      body: { agencyName: 'A', name: 'N', email: 'a@small.example', password: 'harbour wall at noon', setupKey: 'x' },
    },
    'POST /starters': { path: '/starters', body: { templates: ['new-website'] } },
    'POST /account/hints': { path: '/account/hints', body: { hint: 'desk' } },
    'POST /invitations': { path: '/invitations', body: { people: [{ name: 'N', email: 'n@small.example', ...fields }] } },
    'POST /access-links': { path: '/access-links', body: { email: 'nobody@small.example' } },
    'POST /access-links/{token}': { path: `/access-links/${'0'.repeat(96)}`, body: { password: 'harbour wall at noon' } },
    'POST /account/password': { path: '/account/password', body: { current: 'x', password: 'harbour wall at noon' } },
    'POST /account/second-factor/confirm': { path: '/account/second-factor/confirm', body: { code: '123456' } },
    'POST /account/second-factor/recovery-codes': { path: '/account/second-factor/recovery-codes', body: { password: 'x' } },
    'POST /account/second-factor/off': { path: '/account/second-factor/off', body: { password: 'x' } },
    'PATCH /crew/{id}': {
      path: `/crew/${people['Mak']}`,
      body: { version: 1, name: 'Mak Reyes', isActive: true, standInId: people['Dora'], ...fields },
    },
    'POST /clients': { path: '/clients', body: { name: 'C', hue: 'blue' } },
    'PATCH /clients/{id}': { path: `/clients/${UNKNOWN}`, body: { version: 1, name: 'C', hue: 'blue' } },
    'POST /clients/{id}/contacts': { path: `/clients/${UNKNOWN}/contacts`, body: contact },
    'PATCH /contacts/{id}': { path: `/contacts/${UNKNOWN}`, body: { version: 1, ...contact, clientIds: [UNKNOWN], isActive: true } },
    'POST /engagements': { path: '/engagements', body: { ...planned, name: 'E', contactId: UNKNOWN, likelihood: 100 } },
    'POST /engagements/in-steps': {
      path: '/engagements/in-steps',
      body: { ...planned, name: 'E', contactId: UNKNOWN, likelihood: 100 },
    },
    'POST /engagements/preview': { path: '/engagements/preview', body: planned },
    'PATCH /engagements/{id}': { path: `/engagements/${id}`, body: about },
    'POST /engagements/{id}/edit/preview': { path: `/engagements/${id}/edit/preview`, body: about },
    'POST /engagements/{id}/drop': { path: `/engagements/${id}/drop`, body: { version: 1, reason: 'No' } },
    'POST /engagements/{id}/complete': { path: `/engagements/${id}/complete`, body: { version: 1, openTasks: 'leave', reason: 'Agreed' } },
    'POST /engagements/{id}/complete/preview': {
      path: `/engagements/${id}/complete/preview`,
      body: { version: 1, openTasks: 'move', moveTo: id },
    },
    'POST /engagements/{id}/rounds': { path: `/engagements/${id}/rounds`, body: { taskId: task, wayId: id } },
    'POST /engagements/{id}/rounds/preview': { path: `/engagements/${id}/rounds/preview`, body: { taskId: task, wayId: id } },
    'POST /engagements/{id}/reopen': { path: `/engagements/${id}/reopen`, body: { version: 1 } },
    'POST /engagements/{id}/tasks': { path: `/engagements/${id}/tasks`, body: adding },
    'POST /engagements/{id}/tasks/preview': { path: `/engagements/${id}/tasks/preview`, body: adding },
    'POST /engagements/{id}/changes': { path: `/engagements/${id}/changes`, body: { tasks: [change] } },
    'POST /engagements/{id}/changes/preview': { path: `/engagements/${id}/changes/preview`, body: { tasks: [change] } },
    'POST /engagements/{id}/deliverables': { path: `/engagements/${id}/deliverables`, body: { name: 'D' } },
    'POST /engagements/{id}/roles': { path: `/engagements/${id}/roles`, body: { roleId: role?.id, personId: people['Dora'], seen: null } },
    'POST /engagements/{id}/roles/preview': {
      path: `/engagements/${id}/roles/preview`,
      body: { roleId: role?.id, personId: people['Dora'], seen: null },
    },
    'PATCH /settings': { path: '/settings', body: { historyMonths: 24 } },
    'POST /rules': {
      path: '/rules',
      body: { level: 'agency', templateId: template, engagementId: id, content: says, isOn: true, replacesId: UNKNOWN },
    },
    'PATCH /rules/{id}': { path: `/rules/${UNKNOWN}`, body: { version: 1, content: says, isOn: true, beforeId: null } },
    'POST /rules/{id}/exceptions': { path: `/rules/${UNKNOWN}/exceptions`, body: { templateId: template, engagementId: id } },
    'POST /rules/try': {
      path: '/rules/try',
      body: { level: 'agency', templateId: template, engagementId: id, content: says, days: 30, ruleId: UNKNOWN, replacesId: UNKNOWN },
    },
    'POST /notices/read': { path: '/notices/read', body: { noticeIds: [UNKNOWN], isRead: true } },
    'POST /notices/snooze': { path: '/notices/snooze', body: { noticeIds: [UNKNOWN], isSnoozed: true } },
    'POST /presence': { path: '/presence', body: { shown: [{ kind: 'engagement', id: UNKNOWN }] } },
    'PATCH /notices/choices': { path: '/notices/choices', body: { kind: 'moved', channel: 'mail', isOn: true } },
    'PATCH /notices/mailing': { path: '/notices/mailing', body: { isQuiet: true, hasDigest: false } },
    'POST /mail/boxes/{id}/answer': { path: `/mail/boxes/${UNKNOWN}/answer`, body: { text: 'Yes.' } },
    'POST /mail/links/open': { path: '/mail/links/open', body: { token: '0'.repeat(52) } },
    'PATCH /phases/{id}': {
      path: `/phases/${phase}`,
      body: {
        ...{ seen: { name: 'Draw', stateLine: 'Being drawn', roleId: null }, name: 'Draw', stateLine: 'Being drawn', roleId: role?.id },
        checks: [{ kind: 'files-there', text: 'A plan is there', wants: ['pdf'] }],
      },
    },
    'POST /webhooks': { path: '/webhooks', body: { name: 'Board', url: 'http://127.0.0.1:1/hook', kinds: ['handed-off'] } },
    'PATCH /webhooks/{id}': {
      path: `/webhooks/${UNKNOWN}`,
      body: { version: 1, name: 'Board', url: 'http://127.0.0.1:1/hook', kinds: ['picked-up'], isOn: true },
    },
    'PUT /mail/server': { path: '/mail/server', body: server },
    'POST /mail/server/try': { path: '/mail/server/try', body: server },
    'POST /mail/incoming': { path: '/mail/incoming', body: { to: 'no-reply@crew.test', from: 'mak@small.example', raw: 'SGk=' } },
    'PATCH /calendar': { path: '/calendar', body: { week: [480, 480, 480, 480, 480, 0, 0] } },
    'POST /calendar/closed-days': { path: '/calendar/closed-days', body: { days: [{ day: '2027-05-03', name: 'Spring' }] } },
    'POST /calendar/preview': { path: '/calendar/preview', body: { close: ['2026-12-24'], open: ['2026-11-27'] } },
    'POST /calendar/import': { path: '/calendar/import', body: { text: 'BEGIN:VCALENDAR', isTrial: true } },
    'POST /crew/{id}/time-off': {
      path: `/crew/${people['Mak']}/time-off`,
      body: { from: '2027-05-03', to: '2027-05-04', minutes: 60, note: '' },
    },
    'POST /crew/{id}/time-off/import': { path: `/crew/${people['Mak']}/time-off/import`, body: { text: 'BEGIN:VCALENDAR', isTrial: true } },
    'POST /templates': { path: '/templates', body: { name: 'T', kind: 'engagement', copyOf: template } },
    'POST /templates/import': { path: '/templates/import', body: { file: exported, isTrial: true } },
    'PUT /templates/{id}/content': { path: `/templates/${template}/content`, body: { revision: 1, content } },
    'POST /templates/{id}/versions': { path: `/templates/${template}/versions`, body: { revision: 1, note: 'n' } },
    'POST /templates/{id}/archive': { path: `/templates/${template}/archive`, body: { isArchived: false } },
    'POST /engagements/{id}/template-news': { path: `/engagements/${id}/template-news`, body: { ids: ['x'] } },
    'POST /engagements/{id}/from-library': { path: `/engagements/${id}/from-library`, body: taking },
    'POST /engagements/{id}/from-library/preview': { path: `/engagements/${id}/from-library/preview`, body: taking },
    'POST /engagements/{id}/template-news/preview': { path: `/engagements/${id}/template-news/preview`, body: { ids: ['x'] } },
    'POST /engagements/{id}/template': {
      path: `/engagements/${id}/template`,
      body: { name: 'From Quay', phaseId: phase, taskId: task, measure: 'real' },
    },
    'POST /workload/changes': {
      path: '/workload/changes',
      body: { parts: [{ engagementId: id, tasks: [{ id: task, version: 1, days: 2 }] }] },
    },
    'POST /workload/changes/preview': {
      path: '/workload/changes/preview',
      body: { parts: [{ engagementId: id, tasks: [{ id: task, version: 1, days: 2 }] }] },
    },
    'POST /templates/{id}/learned': { path: `/templates/${template}/learned`, body: { revision: 1, proposals: ['effort x'], note: 'n' } },
    'POST /workload/try': {
      path: '/workload/try',
      body: { templateId: template, start: '2026-12-07', roles: planned.roles, likelihood: 50, from: '2026-11-23', to: '2026-12-13' },
    },
    'POST /rhythms/preview': { path: '/rhythms/preview', body: { ...weekly, from: '2026-12-07' } },
    'POST /tasks/{id}/series': { path: `/tasks/${ink}/series`, body: { ...weekly, whenMissed: 'keep', isPhaseOnly: true } },
    'PATCH /task-series/{id}': {
      path: `/task-series/${repeated.id}`,
      body: { version: 1, ...weekly, from: '2026-12-14', whenMissed: 'keep', skipped: ['2026-12-07'], extra: ['2026-12-08'] },
    },
    'POST /task-series/{id}/like': { path: `/task-series/${repeated.id}/like`, body: { version: 1, taskId: cut } },
    'POST /task-series/{id}/stop': { path: `/task-series/${repeated.id}/stop`, body: { version: 9, from: '2027-01-01' } },
    'POST /task-series/{id}/resume': { path: `/task-series/${repeated.id}/resume`, body: { version: 9 } },
    'POST /series': { path: '/series', body: begin },
    'PATCH /series/{id}': {
      path: `/series/${line.id}`,
      body: {
        ...{ version: 9, name: 'Line', unitName: 'Unit {n}', roles: planned.roles, onClosed: 'after', retainerMinutes: null, carry: 'all' },
        ...{ aheadDays: 7, skipped: ['2026-12-07'], extra: ['2026-12-08'] },
      },
    },
    'POST /series/{id}/rhythms/preview': {
      path: `/series/${line.id}/rhythms/preview`,
      body: { from: '2026-12-14', rule: weekly.rule, each: 2, shownFrom: '2026-11-23', shownTo: '2026-12-13' },
    },
    'POST /series/{id}/rhythms': {
      path: `/series/${line.id}/rhythms`,
      body: { version: 9, from: '2026-12-14', rule: weekly.rule, each: 2 },
    },
    'POST /series/{id}/rhythms/cancel': { path: `/series/${line.id}/rhythms/cancel`, body: { version: 9, from: '2026-12-14' } },
    'POST /series/{id}/stop': { path: `/series/${line.id}/stop`, body: { version: 9, from: '2027-01-01' } },
    'POST /series/{id}/resume': { path: `/series/${line.id}/resume`, body: { version: 9 } },
    'POST /week-plan/places': { path: '/week-plan/places', body: { tasks: [{ taskId: ink, week: null }] } },
    'POST /desk/places': {
      path: '/desk/places',
      body: { taskId: ink, day: '2026-11-24', fromDay: '2026-11-23', minutes: 60, beforeTaskId: null, personId: people['Dora'] },
    },
    'POST /desk/places/restore': {
      path: '/desk/places/restore',
      body: { personId: people['Dora'], taskId: ink, days: ['2026-11-24'], places: [{ taskId: ink, day: '2026-11-24', minutes: 30 }] },
    },
    'POST /desk/places/remove': { path: '/desk/places/remove', body: { taskId: ink, day: '2026-11-24', personId: people['Dora'] } },
    'POST /timer': { path: '/timer', body: { taskId: task } },
    'POST /timer/restore': {
      path: '/timer/restore',
      body: { entryId: null, taskId: ink, day: '2026-11-23', bankedSeconds: 60, runningSince: null },
    },
    'POST /timer/stop': { path: '/timer/stop', body: { minutes: 5, note: '' } },
    'PUT /settings/logo': { path: '/settings/logo', body: { image: PIXEL } },
    'POST /roles': { path: '/roles', body: { name: 'Gilder' } },
    'PATCH /roles/{id}': { path: `/roles/${role?.id}`, body: { name: 'Maker' } },
    'PATCH /labels': { path: '/labels', body: { label: 'print', to: 'press' } },
    'POST /custom-fields': { path: '/custom-fields', body: { name: 'Sheet', kind: 'choice', choices: ['A1', 'A2'] } },
    'PATCH /custom-fields/{id}': { path: `/custom-fields/${field.id}`, body: { name: 'Size', choices: [], isArchived: false } },
    'PATCH /tasks/{id}': { path: `/tasks/${task}`, body: edit },
    'POST /tasks/query': {
      path: '/tasks/query',
      body: { filter: { engagementIds: [id], isOpen: true, text: 'Sketch' }, sort: 'due', groupBy: 'status', limit: 5 },
    },
    'POST /tasks/{id}/preview': { path: `/tasks/${task}/preview`, body: edit },
    'POST /tasks/{id}/steps': { path: `/tasks/${task}/steps`, body: { title: 'S' } },
    'PATCH /steps/{id}': { path: `/steps/${sheet.steps[0]?.id}`, body: { isDone: false } },
    'POST /tasks/{id}/time': {
      path: `/tasks/${task}/time`,
      body: {
        day: '2026-11-23',
        minutes: 5,
        note: '',
        startMinute: 540,
        isChargeable: true,
        reason: 'r',
        personId: people['Mak'],
      },
    },
    'PATCH /time/{id}': {
      path: `/time/${entry}`,
      body: {
        version: 1,
        taskId: task,
        day: '2026-11-23',
        minutes: 5,
        note: '',
        startMinute: 540,
        isChargeable: true,
        reason: 'r',
      },
    },
    'POST /time/{id}/remove': { path: `/time/${entry}/remove`, body: { version: 1, reason: 'r' } },
    'POST /time/closing': { path: '/time/closing', body: { through: null } },
    'POST /handoffs/{id}/hand-off': {
      path: `/handoffs/${handoff}/hand-off`,
      body: { version: 9, receiverId: people['Mak'], words: '', reason: 'r' },
    },
    'POST /handoffs/{id}/pick-up': { path: `/handoffs/${handoff}/pick-up`, body: { version: 9 } },
    'POST /handoffs/{id}/send-back': { path: `/handoffs/${handoff}/send-back`, body: { version: 9, question: 'q' } },
    'POST /handoffs/{id}/give-on': { path: `/handoffs/${handoff}/give-on`, body: { version: 9, receiverId: people['Mak'] } },
    'PATCH /gate-checks/{id}': { path: `/gate-checks/${check?.id}`, body: { isClear: false } },
  };
}

/** Sends a body to a route, as "PATCH /tasks/{id}" with its own address. */
export function sendTo(caller: Caller, { route, path }: { readonly route: string; readonly path: string }, body: object): Test {
  if (path === '/mail/incoming') return caller.post(path, body).set(INCOMING_MAIL_HEADER, incomingSecret);
  if (route.startsWith('PUT')) return caller.put(path, body);
  return route.startsWith('PATCH') ? caller.patch(path, body) : caller.post(path, body);
}

/** A refusal is one of the known ones, in a sentence, and never a fault of ours. */
export function expectSentence(status: number, body: ErrorBody, what: string): void {
  if (status < 400) return;
  expect({ what, status, known: body.code in ERRORS, isSentence: /^[A-Z“"].*[.?]$/s.test(body.message) }).toEqual({
    ...{ what, known: true, isSentence: true },
    status: ERRORS[body.code].status,
  });
  expect({ what, code: body.code }).not.toEqual({ what, code: 'internal-fault' });
}
