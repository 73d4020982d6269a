import type { AddedPhases, AddedKept, AddedTask, DryRun, PlanEngagement, StartEngagement, StartLine } from '@crew/contract';
import { useState } from 'react';
import useSWR from 'swr';
import { ApiError, call, callInLines } from '../../api/client.ts';

/** What has been chosen so far; everything the review is computed from. */
export interface StartForm {
  readonly clientId: string | null;
  readonly contactId: string | null;
  readonly templateId: string | null;
  /** The engagement to copy, in place of a template. */
  readonly copyOf: string | null;
  readonly name: string;
  readonly from: 'start' | 'promise';
  readonly start: string;
  readonly promise: string;
  /** Phases of other templates and tasks of other engagements, in the order in which they were added. */
  readonly addPhases: readonly AddedPhases[];
  readonly addTasks: readonly AddedTask[];
  readonly addKept: readonly AddedKept[];
  readonly withoutPhases: readonly string[];
  readonly withoutTasks: readonly string[];
  /** By name. */
  readonly withoutDeliverables: readonly string[];
  readonly roles: Readonly<Record<string, string | null>>;
}

export type Making = Extract<StartLine, { kind: 'making' }>;

export interface StartState {
  readonly form: StartForm;
  readonly change: (change: Partial<StartForm>) => void;
  readonly toggle: (list: 'withoutPhases' | 'withoutTasks' | 'withoutDeliverables', id: string) => void;
  /** Takes an added phase out again, with what was put into it. */
  readonly takeOutPhase: (id: string) => void;
  readonly takeOutTask: (id: string) => void;
  readonly run: DryRun | undefined;
  /** All of the template or the engagement that is copied, before anything is left out or added. */
  readonly whole: DryRun | undefined;
  readonly problem: ApiError | undefined;
  readonly isComputing: boolean;
  /** How far it is while it is being made. */
  readonly making: Making | null;
  readonly faults: Readonly<Record<string, string>>;
  readonly start: () => Promise<string | null>;
}

/** What is known of a new engagement on arrival. */
interface StartFrom {
  readonly templateId: string | null;
  readonly copyOf?: string | null;
}

/** The form of a new engagement and its dry run, computed anew on the server at each change. */
export function useStartForm({ templateId, copyOf = null }: StartFrom, today: string): StartState {
  const [typed, setForm] = useState<StartForm>({ ...blankForm(today), templateId, copyOf });
  const [faults, setFaults] = useState<Record<string, string>>({});
  const [making, setMaking] = useState<Making | null>(null);
  const { data: whole } = usePreview(planOf({ ...blankForm(today), templateId: typed.templateId, copyOf: typed.copyOf }));
  // A copy is most often for the same client.
  const form = { ...typed, clientId: typed.clientId ?? whole?.copyOf?.clientId ?? null };
  const plan = planOf(form);
  const { data, error, isLoading } = usePreview(plan);

  const change = (next: Partial<StartForm>): void => {
    setForm((before) => ({ ...before, ...next }));
    setFaults({});
  };
  return {
    form,
    change,
    toggle: (list, id) =>
      setForm((before) => ({
        ...before,
        [list]: before[list].includes(id) ? before[list].filter((other) => other !== id) : [...before[list], id],
      })),
    takeOutPhase: (id) =>
      setForm((before) => ({
        ...before,
        addPhases: before.addPhases
          .map((added) => ({ ...added, phaseIds: added.phaseIds.filter((other) => other !== id) }))
          .filter((added) => added.phaseIds.length > 0),
        addTasks: before.addTasks.filter((added) => added.phaseId !== id),
        addKept: before.addKept.filter((added) => added.phaseId !== id),
      })),
    takeOutTask: (id) => setForm((before) => ({ ...before, addTasks: before.addTasks.filter((added) => added.taskId !== id) })),
    run: plan === null ? undefined : data,
    whole,
    making,
    problem: error,
    isComputing: isLoading,
    faults,
    start: async () => {
      const missing = missingFields(form);
      setFaults(missing);
      if (Object.keys(missing).length > 0 || plan === null) return null;
      try {
        const body = {
          ...plan,
          name: form.name,
          clientId: form.clientId,
          ...(form.contactId === null ? {} : { contactId: form.contactId }),
        } as StartEngagement;
        return await make(body, setMaking);
      } catch (fault) {
        const refusal = fault as ApiError;
        setFaults({ [refusal.field ?? 'start']: refusal.message });
        return null;
      } finally {
        setMaking(null);
      }
    },
  };
}

/** Nothing chosen yet, from today. */
const blankForm = (today: string): StartForm => ({
  ...{ clientId: null, contactId: null, templateId: null, copyOf: null, name: '', from: 'start', start: today, promise: '' },
  ...{ addPhases: [], addTasks: [], addKept: [], withoutPhases: [], withoutTasks: [], withoutDeliverables: [], roles: {} },
});

/** A plan laid by the server; what was shown stays until the next is there. */
const usePreview = (plan: PlanEngagement | null) =>
  useSWR<DryRun, ApiError>(
    plan === null ? null : ['start', JSON.stringify(plan)],
    () => call<DryRun>('POST', '/engagements/preview', plan as PlanEngagement),
    { keepPreviousData: true, revalidateOnFocus: false },
  );

/** Makes it, telling how far it is; the id of what was made. */
async function make(body: StartEngagement, tell: (making: Making) => void): Promise<string | null> {
  let id: string | null = null;
  await callInLines<StartLine>('/engagements/in-steps', body, {
    onLine: (line) => {
      if (line.kind === 'making') tell(line);
      else if (line.kind === 'made') id = line.id;
      else throw new ApiError(line.refusal);
    },
  });
  return id;
}

/** What it is made from, or null while that is open. */
function sourceOf({ templateId, copyOf }: StartForm): Pick<PlanEngagement, 'templateId' | 'copyOf'> | null {
  if (copyOf !== null) return { copyOf };
  return templateId === null ? null : { templateId };
}

/** The request of the preview, or null while there is nothing to compute. */
function planOf(form: StartForm): PlanEngagement | null {
  const source = sourceOf(form);
  if (source === null) return null;
  const dates =
    form.from === 'start' ? { start: form.start, ...(form.promise === '' ? {} : { promise: form.promise }) } : { promise: form.promise };
  if (form.from === 'start' ? form.start === '' : form.promise === '') return null;
  return {
    ...source,
    ...dates,
    ...(form.clientId === null ? {} : { clientId: form.clientId }),
    ...(form.addPhases.length === 0 ? {} : { addPhases: [...form.addPhases] }),
    ...(form.addTasks.length === 0 ? {} : { addTasks: [...form.addTasks] }),
    ...(form.addKept.length === 0 ? {} : { addKept: [...form.addKept] }),
    withoutPhases: [...form.withoutPhases],
    withoutTasks: [...form.withoutTasks],
    ...(form.withoutDeliverables.length === 0 ? {} : { withoutDeliverables: [...form.withoutDeliverables] }),
    roles: Object.entries(form.roles).map(([roleId, personId]) => ({ roleId, personId })),
  };
}

function missingFields(form: StartForm): Record<string, string> {
  return {
    ...(form.clientId === null ? { clientId: 'Choose the client.' } : {}),
    ...(sourceOf(form) === null ? { templateId: 'Choose a template.' } : {}),
    ...(form.name.trim() === '' ? { name: 'Give the engagement a name.' } : {}),
    ...(form.from === 'promise' && form.promise === '' ? { promise: 'Give the promised date to plan back from.' } : {}),
    ...(form.from === 'start' && form.start === '' ? { start: 'Give the first day.' } : {}),
  };
}
