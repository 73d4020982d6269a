import type { AddedPhases, AddedTask, DryRun, PlanEngagement, StartEngagement } from '@crew/contract';
import { useState } from 'react';
import useSWR from 'swr';
import { call, type ApiError } from '../../api/client.ts';

/** What has been chosen so far; everything the review is computed from. */
export interface StartForm {
  readonly clientId: string | null;
  readonly contactId: string | null;
  readonly templateId: string | null;
  readonly name: string;
  readonly from: 'start' | 'promise';
  readonly start: string;
  readonly promise: string;
  /** Phases of other templates and tasks of other engagements, in the order in which they were added. */
  readonly addPhases: readonly AddedPhases[];
  readonly addTasks: readonly AddedTask[];
  readonly withoutPhases: readonly string[];
  readonly withoutTasks: readonly string[];
  readonly roles: Readonly<Record<string, string | null>>;
}

export interface StartState {
  readonly form: StartForm;
  readonly change: (change: Partial<StartForm>) => void;
  readonly toggle: (list: 'withoutPhases' | 'withoutTasks', id: string) => void;
  /** Takes an added phase out again, with what was put into it. */
  readonly takeOutPhase: (id: string) => void;
  readonly takeOutTask: (id: string) => void;
  readonly run: DryRun | undefined;
  readonly problem: ApiError | undefined;
  readonly isComputing: boolean;
  readonly faults: Readonly<Record<string, string>>;
  readonly start: () => Promise<string | null>;
}

/** The form of a new engagement and its dry run, computed anew on the server at each change. */
export function useStartForm(templateId: string | null, today: string): StartState {
  const [form, setForm] = useState<StartForm>({
    ...{ clientId: null, contactId: null, templateId, name: '', from: 'start', start: today, promise: '' },
    ...{ addPhases: [], addTasks: [], withoutPhases: [], withoutTasks: [], roles: {} },
  });
  const [faults, setFaults] = useState<Record<string, string>>({});
  const plan = planOf(form);
  const { data, error, isLoading } = useSWR<DryRun, ApiError>(
    plan === null ? null : ['start', JSON.stringify(plan)],
    () => call<DryRun>('POST', '/engagements/preview', plan as PlanEngagement),
    { keepPreviousData: true, revalidateOnFocus: false },
  );
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
      })),
    takeOutTask: (id) => setForm((before) => ({ ...before, addTasks: before.addTasks.filter((added) => added.taskId !== id) })),
    run: plan === null ? undefined : data,
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
        return (await call<{ id: string }>('POST', '/engagements', body)).id;
      } catch (fault) {
        const refusal = fault as ApiError;
        setFaults({ [refusal.field ?? 'start']: refusal.message });
        return null;
      }
    },
  };
}

/** The request of the preview, or null while there is nothing to compute. */
function planOf(form: StartForm): PlanEngagement | null {
  if (form.templateId === null) return null;
  const dates =
    form.from === 'start' ? { start: form.start, ...(form.promise === '' ? {} : { promise: form.promise }) } : { promise: form.promise };
  if (form.from === 'start' ? form.start === '' : form.promise === '') return null;
  return {
    templateId: form.templateId,
    ...dates,
    ...(form.clientId === null ? {} : { clientId: form.clientId }),
    ...(form.addPhases.length === 0 ? {} : { addPhases: [...form.addPhases] }),
    ...(form.addTasks.length === 0 ? {} : { addTasks: [...form.addTasks] }),
    withoutPhases: [...form.withoutPhases],
    withoutTasks: [...form.withoutTasks],
    roles: Object.entries(form.roles).map(([roleId, personId]) => ({ roleId, personId })),
  };
}

function missingFields(form: StartForm): Record<string, string> {
  return {
    ...(form.clientId === null ? { clientId: 'Choose the client.' } : {}),
    ...(form.templateId === null ? { templateId: 'Choose a template.' } : {}),
    ...(form.name.trim() === '' ? { name: 'Give the engagement a name.' } : {}),
    ...(form.from === 'promise' && form.promise === '' ? { promise: 'Give the promised date to plan back from.' } : {}),
    ...(form.from === 'start' && form.start === '' ? { start: 'Give the first day.' } : {}),
  };
}
