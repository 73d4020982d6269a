import type {
  AgencyCalendar,
  AgencySettings,
  ClientEngagement,
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
  EngagementTrack,
  ForecastState,
  HandoffBoard,
  LearnedTemplate,
  HandoffSheet,
  HistoryPage,
  OwnField,
  WeekPlan,
  Me,
  SeriesView,
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
import useSWR, { mutate, useSWRConfig, type SWRConfiguration } from 'swr';
import { ApiError, keepToken, read } from './client.ts';
import { forgetOwn, readBehindOwn } from './in-turn.ts';
import { keepSame } from './keep-same.ts';

/** What is shown, by address; a change refreshes what it may have touched, and what it did not touch stays the same objects. */
function useAsked<Answer>(path: string | null, options?: SWRConfiguration<Answer, ApiError>) {
  const { cache } = useSWRConfig();
  const readAnew = async (asked: string): Promise<Answer> => {
    const after = await readBehindOwn(() => read<Answer>(asked));
    return keepSame(cache.get(asked)?.data, after);
  };
  return useSWR<Answer, ApiError>(path, readAnew, options);
}

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

export const useMe = () => useSWR<Me | null, ApiError>('/session', readMe);

/** After signing in: who it is now, in place of the nobody that was known before. */
export function enterSession(): Promise<unknown> {
  forgetOwn();
  return mutate('/session', readMe('/session'), { revalidate: false });
}

export const useDemoPeople = () => useAsked<DemoPerson[]>('/session/demo');
export const useAgency = () => useAsked<{ isFounded: boolean }>('/agency');
/** Engagements as tracks: all, or those that stand with some roles; nothing is asked while the roles are not known. */
export function useEngagements(isFinished: boolean, roleIds: readonly string[] | null | undefined = null) {
  const role = roleIds === null || roleIds === undefined ? '' : `role=${roleIds.join(',')}`;
  const asked = [isFinished ? 'finished=yes' : '', role].filter((word) => word !== '').join('&');
  return useAsked<EngagementTrack[]>(roleIds === undefined ? null : `/engagements${asked === '' ? '' : `?${asked}`}`);
}
export const usePlan = (id: string) => useAsked<EngagementPlan>(`/engagements/${id}/plan`);
export const useTask = (id: string) => useAsked<TaskSheet>(`/tasks/${id}`, { keepPreviousData: true });
/** The whole crew; a freelancer, who may not see it, does not ask. */
export const useCrew = (isAsked = true) => useAsked<Crew>(isAsked ? '/crew' : null);
export const useOwnFields = () => useAsked<OwnField[]>('/own-fields');
export const useCalendar = () => useAsked<AgencyCalendar>('/calendar');
export const useCrewMembers = () => useAsked<CrewMember[]>('/crew/members');
export const useClients = () => useAsked<ClientSummary[]>('/clients');
export const useTemplates = () => useAsked<TemplateSummary[]>('/templates');
/** A template without a task has nothing to lay: then nothing is asked. */
export const useDryRun = (id: string | null, query: string) =>
  useAsked<DryRun>(id === null ? null : `/templates/${id}${query}`, { keepPreviousData: true });
export const useTemplateContent = (id: string) => useAsked<TemplateContentView>(`/templates/${id}/content`, { revalidateOnFocus: false });
export const useTemplateVersions = (id: string) => useAsked<TemplateVersionLine[]>(`/templates/${id}/versions`);
export const useTemplateUses = (id: string) => useAsked<TemplateUses>(`/templates/${id}/uses`);
export const useDifference = (id: string, from: string, to: string) =>
  useAsked<DifferenceLine[]>(`/templates/${id}/difference?from=${from}&to=${to}`);
export const useTemplateNews = (engagementId: string) => useAsked<TemplateNews>(`/engagements/${engagementId}/template-news`);
/** One's own timer, and when that was read: what it has counted since is added on the screen. */
const readTimer = async (path: string): Promise<TimerState & { readonly readAt: number }> => ({
  ...(await read<TimerState>(path)),
  readAt: Date.now(),
});
export const useTimerState = () => useSWR<TimerState & { readonly readAt: number }, ApiError>('/timer', readTimer);
export const useHandoffs = () => useAsked<HandoffBoard>('/handoffs');
export const useHandoff = (id: string) => useAsked<HandoffSheet>(`/handoffs/${id}`, { keepPreviousData: true });
export const useWorkload = (query: string) => useAsked<Workload>(`/workload${query}`, { keepPreviousData: true });
/** What could ease somebody's load in these days. */
export const useEase = (person: string | null, { from, to }: { readonly from: string; readonly to: string }) =>
  useAsked<EaseView>(person === null ? null : `/workload/ease?person=${person}&from=${from}&to=${to}`, { keepPreviousData: true });
/** Who should do a task, best first. */
export const useWhoShould = (taskId: string) => useAsked<WhoShouldDoIt>(`/tasks/${taskId}/who`);
export const useDesk = (person: string | null) =>
  useAsked<Desk>(person === null ? '/desk' : `/desk?person=${person}`, { keepPreviousData: true });
/** Somebody's week of time: one's own, or as a lead anybody's. */
export const useWeekSheet = (person: string | null, day: string) =>
  useAsked<WeekSheet>(`/time?day=${day}${person === null ? '' : `&person=${person}`}`, { keepPreviousData: true });
export const useCrewTime = (day: string) => useAsked<CrewTime>(`/time/crew?day=${day}`, { keepPreviousData: true });
export const useForecastState = (engagementId: string) => useAsked<ForecastState>(`/engagements/${engagementId}/forecast`);
export const useLearned = (templateId: string) => useAsked<LearnedTemplate>(`/templates/${templateId}/learned`);
/** How a task repeats; nothing is asked for one that does not. */
export const useTaskSeries = (id: string | null) => useAsked<TaskSeriesView>(id === null ? null : `/task-series/${id}`);
export const useTaskSeriesList = () => useAsked<TaskSeriesLine[]>('/task-series');
export const useSeriesList = () => useAsked<SeriesView[]>('/series');
export const useSeries = (id: string) => useAsked<SeriesView>(`/series/${id}`);
export const useWeekPlan = () => useAsked<WeekPlan>('/week-plan');
/** A page of the history; `query` as in `GET /history`. */
export const useHistory = (query: string) => useAsked<HistoryPage>(`/history${query === '' ? '' : `?${query}`}`);
export const useSettings = () => useAsked<AgencySettings>('/settings');
export const useClientEngagements = () => useAsked<ClientEngagement[]>('/client/engagements');

let lastRefresh: Promise<unknown> = Promise.resolve();

/**
 * Everything shown may have changed: dates, load and percent follow from each other. Over once
 * all of it is there anew: one that began meanwhile has taken the place of the reads of this one.
 */
export async function refreshAll(): Promise<void> {
  for (let refresh = readAllAnew(); ; refresh = lastRefresh) {
    await refresh;
    if (refresh === lastRefresh) return;
  }
}

const readAllAnew = (): Promise<unknown> => (lastRefresh = mutate((key) => typeof key === 'string' && !key.startsWith('/session/demo')));
