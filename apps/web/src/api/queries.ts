import type { IsoDay } from '@crew/core';
import type {
  AccessLinkFacts,
  AgencyCalendar,
  AgencySettings,
  AgencyState,
  LabelLine,
  RoleLine,
  ClientEngagement,
  ClientSheet,
  ClientSummary,
  Crew,
  CrewTime,
  CrewMember,
  DemoPerson,
  Desk,
  DifferenceLine,
  DryRun,
  EaseView,
  EngagementPlan,
  EngagementRoleLine,
  EngagementTrack,
  ForecastState,
  HandoffBoard,
  HandoffCase,
  HandoffSpeed,
  LearnedTemplate,
  RuleChoices,
  RuleList,
  RuleTrial,
  RunPage,
  HandoffSheet,
  HistoryPage,
  HolidayCountry,
  CustomField,
  WebhookDeliveries,
  WebhookLine,
  WeekPlan,
  Me,
  Mailbox,
  MailboxMail,
  MailPage,
  MailServerView,
  NoticeChoices,
  PeopleHere,
  PhaseView,
  PresenceKind,
  Notices,
  PublicHoliday,
  SecondFactorState,
  SecurityLog,
  SeriesView,
  SessionLine,
  SetupState,
  StarterTrade,
  TaskSeriesLine,
  TaskSeriesView,
  TaskSheet,
  TimerState,
  TemplateContentView,
  TemplateSummary,
  TemplateNews,
  TemplateUses,
  TemplateVersionLine,
  WeekSheet,
  WhoShouldDoIt,
  Workload,
} from '@crew/contract';
import { PRESENCE_GONE_AFTER_MS, touches, type Topic } from '@crew/contract';
import { useEffect } from 'react';
import useSWR, { mutate, useSWRConfig, type SWRConfiguration } from 'swr';
import { ApiError, call, keepToken, read } from './client.ts';
import { forgetOwn, readBehindOwn } from './in-turn.ts';
import { keepSame } from './keep-same.ts';
import { takeTouched } from './touched.ts';

/** The topics of each query; some are known only once the answer is there. */
type Topics<Answer> = readonly Topic[] | ((data: Answer | undefined) => readonly Topic[]);
const topicsOf = new Map<string, () => readonly Topic[]>();

/** Changes so seldom that whatever is shown may be read again for it. */
const SELDOM: readonly Topic[] = ['crew', 'client', 'field', 'calendar', 'settings'];

/** How often each thing that is edited by its version is shown at this moment. */
const shownTimes = new Map<string, number>();

/**
 * As `useAsked`, for things that are edited by their version: once one is touched while nobody looks
 * at it, it is dropped from the cache, so that no old version is edited.
 */
function useEdited<Answer>(path: string, topics: Topics<Answer>, options?: SWRConfiguration<Answer, ApiError>) {
  useEffect(() => {
    shownTimes.set(path, (shownTimes.get(path) ?? 0) + 1);
    return () => void shownTimes.set(path, (shownTimes.get(path) ?? 1) - 1);
  }, [path]);
  return useAsked<Answer>(path, topics, options);
}

/** What is shown, by address; a change refreshes what it has touched, and what it did not change stays the same objects. */
function useAsked<Answer>(path: string | null, topics: Topics<Answer>, options?: SWRConfiguration<Answer, ApiError>) {
  const { cache } = useSWRConfig();
  if (path !== null)
    topicsOf.set(path, () => (typeof topics === 'function' ? topics(cache.get(path)?.data as Answer | undefined) : topics));
  const readAnew = async (asked: string): Promise<Answer> => {
    const after = await readBehindOwn(() => read<Answer>(asked));
    return keepSame(cache.get(asked)?.data, after);
  };
  return useSWR<Answer, ApiError>(path, readAnew, options);
}

const ofEngagement = (id: string | undefined): Topic => (id === undefined ? 'engagement' : `engagement:${id}`);
/** Its own engagement, once that is known. */
const ofOwn = (data: { readonly engagement: { readonly id: string } } | undefined): readonly Topic[] => [ofEngagement(data?.engagement.id)];
const ofPerson = (id: string | null): Topic => (id === null ? 'person' : `person:${id}`);
const LOAD: readonly Topic[] = ['engagement', 'week'];

async function readMe(path: string): Promise<Me | null> {
  try {
    const me = await read<Me>(path);
    keepToken(me.csrfToken);
    return me;
  } catch (error) {
    if (error instanceof ApiError && error.code === 'not-signed-in') return null;
    throw error;
  }
}

export const useMe = () => {
  const asked = useSWR<Me | null, ApiError>('/session', readMe);
  const id = asked.data?.personId ?? null;
  // The counts in the bar are of one's own desk and handoffs: what others do that concerns them comes as a notice.
  topicsOf.set('/session', () => ['crew', 'settings', ...(id === null ? [] : [ofPerson(id), `notice:${id}` as const])]);
  return asked;
};

/** After signing in: the account, in place of the nobody that was known before. */
export function enterSession(): Promise<unknown> {
  forgetOwn();
  return mutate('/session', readMe('/session'), { revalidate: false });
}

export const useDemoPeople = () => useAsked<DemoPerson[]>('/session/demo', []);
export const useAgency = () => useAsked<AgencyState>('/agency', ['settings']);
interface TracksAsked {
  readonly isFinished?: boolean;
  /** Of the finished ones only those closed on that day or later. */
  readonly since?: IsoDay | null;
  /** Those that stand with some roles; null for all, and nothing is asked while the roles are not known. */
  readonly roleIds?: readonly string[] | null | undefined;
}

/** Engagements as tracks. */
export function useEngagements({ isFinished = false, since = null, ...roles }: TracksAsked = {}) {
  const roleIds = 'roleIds' in roles ? roles.roleIds : null;
  const asked = [
    ...(isFinished ? ['finished=yes'] : []),
    ...(since === null ? [] : [`since=${since}`]),
    ...(roleIds === null || roleIds === undefined ? [] : [`role=${roleIds.join(',')}`]),
  ].join('&');
  return useAsked<EngagementTrack[]>(roleIds === undefined ? null : `/engagements${asked === '' ? '' : `?${asked}`}`, ['engagement']);
}
export const usePlan = (id: string) => useAsked<EngagementPlan>(`/engagements/${id}/plan`, [ofEngagement(id)]);
/** A phase with its gate, to be edited. */
export const usePhase = (id: string) => useAsked<PhaseView>(`/phases/${id}`, ['engagement']);
/** Who does the work of each role in an engagement. */
export const useEngagementRoles = (id: string) => useAsked<EngagementRoleLine[]>(`/engagements/${id}/roles`, [ofEngagement(id)]);
export const useTask = (id: string) => useEdited<TaskSheet>(`/tasks/${id}`, ofOwn, { keepPreviousData: true });
/** The whole crew; a freelancer, who may not see it, does not ask. */
export const useCrew = (isAsked = true) => useAsked<Crew>(isAsked ? '/crew' : null, ['crew']);
export const useRoles = () => useAsked<RoleLine[]>('/roles', ['crew', 'engagement', 'template']);
export const useLabels = () => useAsked<LabelLine[]>('/labels', ['engagement', 'template']);
export const useCustomFields = () => useAsked<CustomField[]>('/custom-fields', ['field']);
export const useCalendar = () => useAsked<AgencyCalendar>('/calendar', ['calendar']);
export const useCrewMembers = () => useAsked<CrewMember[]>('/crew/members', ['crew']);
export const useClients = () => useAsked<ClientSummary[]>('/clients', ['client', 'engagement']);
/** A client with its contacts and engagements. */
export const useClient = (id: string) => useEdited<ClientSheet>(`/clients/${id}`, ['client', 'engagement']);
export const useTemplates = () => useAsked<TemplateSummary[]>('/templates', ['template']);
/** A template without a task has nothing to schedule: then nothing is asked. */
export const useDryRun = (id: string | null, query: string) =>
  useAsked<DryRun>(id === null ? null : `/templates/${id}${query}`, ['template', ...LOAD], { keepPreviousData: true });
export const useTemplateContent = (id: string) =>
  useEdited<TemplateContentView>(`/templates/${id}/content`, ['template'], { revalidateOnFocus: false });
export const useTemplateVersions = (id: string) => useAsked<TemplateVersionLine[]>(`/templates/${id}/versions`, ['template']);
export const useTemplateUses = (id: string) => useAsked<TemplateUses>(`/templates/${id}/uses`, ['template', 'engagement']);
export const useDifference = (id: string, from: string, to: string) =>
  useAsked<DifferenceLine[]>(`/templates/${id}/difference?from=${from}&to=${to}`, ['template']);
export const useTemplateNews = (engagementId: string) =>
  useAsked<TemplateNews>(`/engagements/${engagementId}/template-news`, ['template', ofEngagement(engagementId)]);
/** One's own timer, and when that was read: what it has counted since is added on the screen. */
const readTimer = async (path: string): Promise<TimerState & { readonly readAt: number }> => ({
  ...(await read<TimerState>(path)),
  readAt: Date.now(),
});
export const useTimerState = () => {
  topicsOf.set('/timer', () => ['person']);
  return useSWR<TimerState & { readonly readAt: number }, ApiError>('/timer', readTimer);
};
export const useHandoffs = () => useAsked<HandoffBoard>('/handoffs', ['engagement']);
/** Handoff times; `query` as in `GET /handoffs/speed`. */
export const useHandoffSpeed = (query: string) =>
  useAsked<HandoffSpeed>(`/handoffs/speed?${query}`, ['engagement'], { keepPreviousData: true });
export const useHandoffCases = (query: string | null) =>
  useAsked<HandoffCase[]>(query === null ? null : `/handoffs/speed/cases?${query}`, ['engagement'], { keepPreviousData: true });
export const useHandoff = (id: string) => useEdited<HandoffSheet>(`/handoffs/${id}`, ofOwn, { keepPreviousData: true });
export const useWorkload = (query: string) => useAsked<Workload>(`/workload${query}`, LOAD, { keepPreviousData: true });
/** What could ease somebody's load in these days. */
export const useEase = (person: string | null, { from, to }: { readonly from: IsoDay; readonly to: IsoDay }) =>
  useAsked<EaseView>(person === null ? null : `/workload/ease?person=${person}&from=${from}&to=${to}`, LOAD, { keepPreviousData: true });
/** Who should do a task, best first. */
export const useWhoShould = (taskId: string) => useAsked<WhoShouldDoIt>(`/tasks/${taskId}/who`, LOAD);
/** The engagements of all that stands on a desk: what others do in them moves it. */
const engagementsOn = (desk: Desk | undefined): Topic[] => {
  if (desk === undefined) return [];
  const tasks = [
    ...(desk.now === null ? [] : [desk.now]),
    ...desk.overdue,
    ...desk.ready,
    ...desk.waiting,
    ...desk.later,
    ...desk.briefs,
    ...desk.unlogged,
  ];
  return [...new Set([...tasks, ...desk.handoffs].map(({ engagement }) => ofEngagement(engagement.id)))];
};
/** Parameters of an address, those that are missing left out. */
const queryOf = (asked: Readonly<Record<string, string | null>>): string => {
  const given = Object.entries(asked).flatMap(([name, value]) => (value === null ? [] : [`${name}=${value}`]));
  return given.length === 0 ? '' : `?${given.join('&')}`;
};

export const useDesk = (person: string | null, week: IsoDay | null) =>
  useAsked<Desk>(`/desk${queryOf({ person, week })}`, (desk) => [ofPerson(person), ...engagementsOn(desk)], {
    keepPreviousData: true,
  });
/** Somebody's week of time: one's own, or as a lead anybody's. */
export const useWeekSheet = (person: string | null, day: IsoDay) =>
  useAsked<WeekSheet>(`/time?day=${day}${person === null ? '' : `&person=${person}`}`, [ofPerson(person), 'time'], {
    keepPreviousData: true,
  });
export const useCrewTime = (day: IsoDay) => useAsked<CrewTime>(`/time/crew?day=${day}`, ['time'], { keepPreviousData: true });
/** Nothing is asked without an engagement. */
export const useForecastState = (engagementId: string | null) =>
  useAsked<ForecastState>(
    engagementId === null ? null : `/engagements/${engagementId}/forecast`,
    engagementId === null ? [] : [ofEngagement(engagementId)],
  );
export const useLearned = (templateId: string) => useAsked<LearnedTemplate>(`/templates/${templateId}/learned`, ['template', 'engagement']);
/** How a task repeats; nothing is asked for one that does not. */
export const useTaskSeries = (id: string | null) => useAsked<TaskSeriesView>(id === null ? null : `/task-series/${id}`, ofOwn);
export const useTaskSeriesList = () => useAsked<TaskSeriesLine[]>('/task-series', ['engagement']);
export const useSeriesList = () => useAsked<SeriesView[]>('/series', ['series', 'engagement']);
export const useSeries = (id: string) => useAsked<SeriesView>(`/series/${id}`, ['series', 'engagement']);
export const useWeekPlan = () => useAsked<WeekPlan>('/week-plan', LOAD);
/** A page of the history; `query` as in `GET /history`. */
export const useHistory = (query: string) => useAsked<HistoryPage>(`/history${query === '' ? '' : `?${query}`}`, ['everything']);
/** What concerns oneself. */
/** One's notices. Opened, they say how their things stand: what is done, logged or planned meanwhile is read too. */
export const useNotices = (isOpen: boolean) =>
  useAsked<Notices>('/notices', isOpen ? ['notice', 'engagement', 'time', 'week'] : ['notice']);
/** Who else looks at it; read again from time to time, because a window that closes silently announces nothing. */
export const usePeopleHere = (kind: PresenceKind, id: string) =>
  useAsked<PeopleHere>(`/presence/${kind}s/${id}`, [`presence:${id}`], { refreshInterval: PRESENCE_GONE_AFTER_MS / 2 });
export const useNoticeChoices = () => useAsked<NoticeChoices>('/notices/choices', ['notice']);
/** Every rule; whoever may not read them does not ask. */
export const useRules = (isAsked = true) => useAsked<RuleList>(isAsked ? '/rules' : null, ['rule', 'template', 'engagement']);
export const useRuleChoices = () => useAsked<RuleChoices>('/rules/choices', ['template', 'engagement'], { revalidateOnFocus: false });
/** What rules did; `query` as in `GET /rules/runs`. */
export const useRuns = (query: string) => useAsked<RunPage>(`/rules/runs${query === '' ? '' : `?${query}`}`, ['rule']);
/** What a rule would have done; `asked` is the body of `POST /rules/try` as text, or null for one that cannot be tried yet. */
export const useRuleTrial = (asked: string | null) =>
  useSWR<RuleTrial, ApiError>(
    asked === null ? null : ['/rules/try', asked],
    ([path, body]: readonly [string, string]) => call<RuleTrial>('POST', path, JSON.parse(body) as object),
    { keepPreviousData: true, revalidateOnFocus: false },
  );
/** One's own bundled mailbox, or that of an address. */
export const useMailbox = (address: string | null) => useAsked<Mailbox>(`/mail/boxes${queryOf({ address })}`, ['mail']);
export const useMailboxMail = (id: string) => useAsked<MailboxMail>(`/mail/boxes/${id}`, []);
/** What was sent; `query` as in `GET /mail`, null to ask nothing. */
export const useSentMail = (query: string | null) =>
  useAsked<MailPage>(query === null ? null : `/mail${query === '' ? '' : `?${query}`}`, ['mail'], { keepPreviousData: true });
export const useMailServer = () => useAsked<MailServerView>('/mail/server', ['settings']);
export const useWebhooks = () => useAsked<WebhookLine[]>('/webhooks', ['webhook']);
export const useWebhookDeliveries = () => useAsked<WebhookDeliveries>('/webhooks/deliveries', ['webhook']);
/** What a link to choose a password is for. */
export const useAccessLink = (token: string) => useAsked<AccessLinkFacts>(`/access-links/${token}`, []);

/** Countries whose public holidays are known. */
export const useHolidayCountries = () => useAsked<HolidayCountry[]>('/holidays/countries', []);

/** The holidays of a place in a year. */
export const useHolidays = ({ country, region }: { readonly country: string; readonly region: string | null }, year: number) =>
  useAsked<PublicHoliday[]>(`/holidays${queryOf({ country, region, year: String(year) })}`, []);

/** Where one is signed in. */
export const useSessions = () => useAsked<SessionLine[]>('/account/sessions', []);

/** One's own second factor. */
export const useSecondFactor = () => useAsked<SecondFactorState>('/account/second-factor', []);

/** A page of the security log. */
export const useSecurityLog = (before: string | null) =>
  useAsked<SecurityLog>(`/account/security-log${before === null ? '' : `?before=${before}`}`, []);

/** How far setting up the agency has come; asked of owners only. */
export const useSetup = (isAsked = true) =>
  useAsked<SetupState>(isAsked ? '/setup' : null, ['settings', 'calendar', 'template', 'crew', 'engagement', 'mail']);
export const useStarters = () => useAsked<StarterTrade[]>('/starters', ['template']);
export const useSettings = () => useAsked<AgencySettings>('/settings', ['settings']);
export const useClientEngagements = () => useAsked<ClientEngagement[]>('/client/engagements', ['engagement']);

let lastRefresh: Promise<unknown> = Promise.resolve();

/**
 * Reads anew what is shown, as far as some topics touch it. Done once all of it is there: a refresh
 * that began meanwhile replaces the reads of this one.
 */
export async function refresh(topics: readonly Topic[]): Promise<void> {
  if (topics.length === 0) return;
  for (let reading = readAnew(topics); ; reading = lastRefresh) {
    await reading;
    if (reading === lastRefresh) return;
  }
}

function readAnew(topics: readonly Topic[]): Promise<unknown> {
  for (const [path, times] of shownTimes)
    if (times === 0 && isTouched(path, topics)) {
      shownTimes.delete(path);
      void mutate(path, undefined, { revalidate: false });
    }
  return (lastRefresh = mutate((key) => typeof key === 'string' && isTouched(key, topics)));
}

function isTouched(key: string, topics: readonly Topic[]): boolean {
  const own = topicsOf.get(key)?.() ?? ['everything'];
  // What is known before anybody has signed in follows from nothing that is changed here.
  return own.length > 0 && touches(topics, [...own, ...SELDOM]);
}

/** Everything that is shown: nobody knows what may have changed. */
export const refreshAll = (): Promise<void> => refresh(['everything']);

/** Reads what the changes of this window have touched, as their answers said, and then what waits for oneself. */
export function refreshTouched(): Promise<void> {
  const topics = takeTouched();
  if (topics.length > 0) void mutate('/session');
  return refresh(topics);
}
