import type { IsoDay } from '@crew/core';
import {
  StartEngagement,
  type AddedKept,
  type AddedPhases,
  type AddedTask,
  type DryRun,
  type PlanEngagement,
  type StartLine,
} from '@crew/contract';
import { useState } from 'react';
import useSWR from 'swr';
import { ApiError, call, callInLines } from '../../api/client.ts';
import { Unreadable } from '../../ui/form/typed.ts';
import { useInputForm, type InputForm, type Reading } from '../../ui/form/use-input-form.ts';

/** What has been chosen so far; everything the review is computed from. */
export interface StartForm {
  readonly clientId: string | null;
  readonly contactId: string | null;
  readonly templateId: string | null;
  /** The engagement to copy, in place of a template. */
  readonly copyOf: string | null;
  readonly name: string;
  readonly from: 'start' | 'promise';
  readonly start: IsoDay | '';
  readonly promise: IsoDay | '';
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
  /** What is chosen; the client of a copy is the same until another one is. */
  readonly form: StartForm;
  readonly fields: InputForm<StartForm>;
  readonly change: (change: Partial<StartForm>) => void;
  readonly toggle: (list: 'withoutPhases' | 'withoutTasks' | 'withoutDeliverables', id: string) => void;
  /** Removes an added phase, with what was put into it. */
  readonly removePhase: (id: string) => void;
  readonly removeTask: (id: string) => void;
  readonly run: DryRun | undefined;
  /** All of the template or the engagement that is copied, before anything is left out or added. */
  readonly whole: DryRun | undefined;
  readonly problem: ApiError | undefined;
  readonly isComputing: boolean;
  /** Progress while it is being made. */
  readonly making: Making | null;
}

/** What is known of a new engagement on arrival. */
interface StartFrom {
  readonly templateId: string | null;
  readonly copyOf?: string | null;
}

interface StartOptions {
  readonly today: IsoDay;
  readonly onStarted: (id: string) => Promise<void>;
}

/** The form of a new engagement and its dry run, computed anew on the server at each change. */
export function useStartForm({ templateId, copyOf = null }: StartFrom, { today, onStarted }: StartOptions): StartState {
  const [making, setMaking] = useState<Making | null>(null);
  const fields = useInputForm({
    rules: StartEngagement,
    typed: { ...blankForm(today), templateId, copyOf },
    input: (typed) => inputOf(withClient(typed)),
    send: async (input) => {
      const id = await make(input, setMaking).finally(() => setMaking(null));
      if (id !== null) await onStarted(id);
    },
  });
  const typed = fields.values;
  const { data: whole } = usePreview(planOf({ ...blankForm(today), templateId: typed.templateId, copyOf: typed.copyOf }));
  // A copy is most often for the same client.
  const withClient = (chosen: StartForm): StartForm => ({ ...chosen, clientId: chosen.clientId ?? whole?.copyOf?.clientId ?? null });
  const form = withClient(typed);
  const plan = planOf(form);
  const { data, error, isLoading } = usePreview(plan);
  return {
    ...{ form, fields, whole, making, change: fields.set },
    toggle: (list, id) =>
      fields.set({ [list]: typed[list].includes(id) ? typed[list].filter((other) => other !== id) : [...typed[list], id] }),
    removePhase: (id) =>
      fields.set({
        addPhases: withoutPhase(typed.addPhases, id),
        addTasks: typed.addTasks.filter((added) => added.phaseId !== id),
        addKept: typed.addKept.filter((added) => added.phaseId !== id),
      }),
    removeTask: (id) => fields.set({ addTasks: typed.addTasks.filter((added) => added.taskId !== id) }),
    run: plan === null ? undefined : data,
    problem: error,
    isComputing: isLoading,
  };
}

/** What is still added once a phase is not; what stood behind it goes to the end. */
function withoutPhase(all: readonly AddedPhases[], id: string): AddedPhases[] {
  return all
    .map(({ behindPhaseId, ...added }) => ({
      ...added,
      phaseIds: added.phaseIds.filter((other) => other !== id),
      ...(behindPhaseId === undefined || behindPhaseId === id ? {} : { behindPhaseId }),
    }))
    .filter((added) => added.phaseIds.length > 0);
}

/** Nothing chosen yet, from today. */
const blankForm = (today: IsoDay): StartForm => ({
  ...{ clientId: null, contactId: null, templateId: null, copyOf: null, name: '', from: 'start', start: today, promise: '' },
  ...{ addPhases: [], addTasks: [], addKept: [], withoutPhases: [], withoutTasks: [], withoutDeliverables: [], roles: {} },
});

/** A plan made by the server; what was shown stays until the next is there. */
const usePreview = (plan: PlanEngagement | null) =>
  useSWR<DryRun, ApiError>(
    plan === null ? null : ['start', JSON.stringify(plan)],
    () => call<DryRun>('POST', '/engagements/preview', plan as PlanEngagement),
    { keepPreviousData: true, revalidateOnFocus: false },
  );

/** Makes it and reports progress; answers the id. */
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

const NO_START = new Unreadable('Give the first day.');
const NO_PROMISE = new Unreadable('Give the promised date to plan back from.');

/** The days it is planned by, as they were given. */
const datesOf = ({ from, start, promise }: StartForm): Reading<Pick<PlanEngagement, 'start' | 'promise'>> =>
  from === 'start'
    ? { start: start === '' ? NO_START : start, ...(promise === '' ? {} : { promise }) }
    : { promise: promise === '' ? NO_PROMISE : promise };

/** What it is made from, and what of that is left out, added and done by whom. */
const partsOf = (form: StartForm): Reading<PlanEngagement> => ({
  ...(form.copyOf !== null ? { copyOf: form.copyOf } : form.templateId !== null ? { templateId: form.templateId } : {}),
  ...datesOf(form),
  ...(form.clientId === null ? {} : { clientId: form.clientId }),
  ...(form.addPhases.length === 0 ? {} : { addPhases: [...form.addPhases] }),
  ...(form.addTasks.length === 0 ? {} : { addTasks: [...form.addTasks] }),
  ...(form.addKept.length === 0 ? {} : { addKept: [...form.addKept] }),
  withoutPhases: [...form.withoutPhases],
  withoutTasks: [...form.withoutTasks],
  ...(form.withoutDeliverables.length === 0 ? {} : { withoutDeliverables: [...form.withoutDeliverables] }),
  roles: Object.entries(form.roles).map(([roleId, personId]) => ({ roleId, personId })),
});

/** The request that starts it. */
const inputOf = (form: StartForm): Reading<StartEngagement> => ({
  ...partsOf(form),
  name: form.name,
  ...(form.contactId === null ? {} : { contactId: form.contactId }),
});

/** The request of the preview, or null while there is nothing to compute. */
function planOf(form: StartForm): PlanEngagement | null {
  if (form.copyOf === null && form.templateId === null) return null;
  const parts = partsOf(form);
  return Object.values(parts).some((part) => part instanceof Unreadable) ? null : (parts as PlanEngagement);
}
