import type { EventKind, EventSubject } from './events.ts';

/**
 * What a change may have touched, as screens ask for it: `engagement:ID` one engagement with its
 * tasks, phases and handoffs, `person:ID` what is one person's own (desk, time, timer), `week` work
 * people put on days of their own week, which counts in the load, `notice:ID` one person's notices,
 * `presence:ID` who looks at an engagement or a task; the others the whole of their kind. `everything`
 * stands for all of them.
 */
export const TOPIC = [
  'engagement',
  'person',
  'week',
  'template',
  'series',
  'crew',
  'client',
  'field',
  'calendar',
  'time',
  'settings',
  'notice',
  'presence',
  'rule',
  'mail',
  'webhook',
  'everything',
] as const;
export type TopicName = (typeof TOPIC)[number];

/** A topic, or one thing of it. */
export type Topic = TopicName | `${'engagement' | 'person' | 'notice' | 'presence'}:${string}`;

/** What changes of these kinds touch, in place of what a change of their subject touches. */
export const TOPICS_OF_KIND: Partial<Readonly<Record<EventKind, readonly TopicName[]>>> = {
  ...{ 'webhook-added': ['webhook', 'rule'], 'webhook-changed': ['webhook', 'rule'], 'webhook-removed': ['webhook', 'rule'] },
  ...{ 'role-added': ['crew'], 'role-renamed': ['everything'], 'role-removed': ['crew'], 'label-changed': ['everything'] },
  ...{ mailed: ['mail'], 'mail-received': ['mail'] },
  ...{ 'calendar-changed': ['calendar'], 'time-closed': ['time'] },
  ...{ 'time-off-added': ['crew', 'calendar'], 'time-off-removed': ['crew', 'calendar'] },
  ...{ 'time-logged': ['time'], 'time-corrected': ['time'], 'time-removed': ['time'] },
};

/** What a change of each kind of thing touches, apart from its engagement. */
export const TOPIC_OF_SUBJECT: Readonly<Record<EventSubject, TopicName | null>> = {
  ...{ task: null, engagement: null, phase: null, handoff: null },
  ...{
    template: 'template',
    series: 'series',
    person: 'crew',
    client: 'client',
    field: 'field',
    rule: 'rule',
    webhook: 'webhook',
    agency: 'settings',
  },
};

/** The header in which an answer names what its change touched, so that the window that made it reads only that again. */
export const TOPICS_HEADER = 'X-Crew-Topics';
/** The header in which a change names the window that made it: that window is not told of it again. */
export const WINDOW_HEADER = 'X-Crew-Window';

/** More topics than this are sent as everything. */
export const MOST_TOPICS = 40;

/** Topics as one text, and back. */
export const topicsText = (topics: readonly Topic[]): string => (topics.length > MOST_TOPICS ? 'everything' : topics.join(' '));
export const readTopics = (text: string): Topic[] => text.split(' ').filter((topic) => topic !== '') as Topic[];

/** Whether a change that touched some topics concerns what was read under others. */
export function touches(changed: readonly Topic[], asked: readonly Topic[]): boolean {
  if (changed.includes('everything') || asked.includes('everything')) return changed.length > 0;
  const nameOf = (topic: Topic): string => topic.split(':')[0] as string;
  // One thing of a topic touches what was read under all of it, and the other way round.
  return changed.some((one) =>
    asked.some((other) => one === other || (nameOf(one) === nameOf(other) && (nameOf(one) === one || nameOf(other) === other))),
  );
}
