import { compileCalendar, rank, workingDaysBetween, type Calendar, type CalendarInput } from '../calendar/calendar.ts';
import { parseDay, type IsoDay } from '../calendar/day.ts';
import type { CustomFieldDefinition, CustomFieldEntry, CustomFieldKind } from '../field/custom-field.ts';
import { realAnchors } from './real-anchors.ts';
import type { TemplateContent, TemplatePhase, TemplateTask } from './types.ts';

/** A task of an engagement with what it presets and how it went. */
export interface PlannedTask extends Omit<TemplateTask, 'personId' | 'helperPersonIds'> {
  readonly fixedDay: IsoDay | null;
  readonly notBefore: IsoDay | null;
  readonly start: IsoDay;
  readonly realStart: IsoDay | null;
  readonly doneOn: IsoDay | null;
  readonly loggedMinutes: number;
  readonly isDropped: boolean;
  /** The main role of who does it, where the task itself names none. */
  readonly roleOfAssignee: string | null;
}

/** A phase of an engagement with the day it began or is planned to. */
export interface PlannedPhase extends TemplatePhase {
  readonly start: IsoDay;
}

export interface PlannedEngagement extends Pick<TemplateContent, 'name' | 'description' | 'ways'> {
  readonly calendar: CalendarInput;
  readonly phases: readonly PlannedPhase[];
  readonly tasks: readonly PlannedTask[];
  /** The agency's custom fields, to tell what in them belongs to this engagement alone. */
  readonly customFields: readonly (Pick<CustomFieldDefinition, 'name' | 'kind'> & { readonly id: string })[];
}

/** As it was planned, or with the effort and length it really took. */
export type Measure = 'planned' | 'real';

/** A template made from an engagement, and in words what could not be made relative. */
export interface TemplateFromPlan {
  readonly content: TemplateContent;
  readonly notes: readonly string[];
}

/**
 * Turns an engagement into a template. Days become anchors again by the shortest true description:
 * what only follows others keeps its dependencies and nothing else; a fixed day or an earliest day
 * becomes the working days since its phase began; a day before that cannot be expressed this way, and
 * is reported. With `real`, what is finished is described by the days it really took (`realAnchors`).
 * People become roles, those who help too. Days, people and addresses in custom fields belong to this
 * one engagement: the field stays, empty, and that is reported. What was dropped is left out. The
 * calendar must have a working day.
 */
export function templateFromPlan(plan: PlannedEngagement, measure: Measure): TemplateFromPlan {
  const compiled = compileCalendar(plan.calendar);
  if (!compiled.ok) return { content: { ...plan, phases: [], tasks: [] }, notes: [] };
  const calendar = compiled.value;
  const kept = plan.tasks.filter((task) => !task.isDropped);
  const ids = new Set(kept.map((task) => task.id));
  const groups = new Set(kept.map((task) => task.parentId));
  const phaseStart = new Map(plan.phases.map((phase) => [phase.id, phase.start]));
  const notes: string[] = [];
  const fieldOf = new Map(plan.customFields.map((field) => [field.id, field]));
  const beganOf = (task: PlannedTask): IsoDay => phaseStart.get(task.phaseId) ?? task.start;
  const real =
    measure === 'real'
      ? realAnchors(
          kept.filter(({ id }) => !groups.has(id)),
          { calendar, phaseStart: beganOf },
        )
      : null;
  const tasks = kept.map((task): TemplateTask => {
    const went = real?.get(task.id) ?? null;
    const anchor = went === null ? anchorOf(task, calendar, beganOf(task)) : went.anchor;
    if (anchor === null) notes.push(`“${task.title}” had a day before its phase began; it now begins with the phase.`);
    if (task.roleId === null && task.roleOfAssignee === null && !NOBODYS.has(task.kind) && !groups.has(task.id))
      notes.push(`“${task.title}” has no role: nobody with one did it.`);
    const opened = (entry: CustomFieldEntry): CustomFieldEntry => {
      const field = fieldOf.get(entry.fieldId);
      if (entry.value === null || field === undefined || !OF_ONE_ENGAGEMENT.has(field.kind)) return entry;
      notes.push(`“${field.name}” of “${task.title}” is open: what stood there belongs to this engagement.`);
      return { ...entry, value: null };
    };
    return {
      ...presetsOf(task),
      customFields: task.customFields.map(opened),
      parentId: task.parentId !== null && ids.has(task.parentId) ? task.parentId : null,
      anchor: anchor ?? { at: 'phase-start', offset: 0 },
      after: (went?.after ?? task.after).filter((dependency) => ids.has(dependency.taskId)),
      ...(measure === 'real' && !groups.has(task.id) ? realMeasures(task, calendar) : {}),
    };
  });
  const ways = plan.ways.filter((way) => ids.has(way.fromId) && (way.toId === null || ids.has(way.toId)));
  const phases = plan.phases.map(({ start: _, ...phase }) => phase);
  return { content: { name: plan.name, description: plan.description, phases, tasks, ways }, notes };
}

/** Tasks of the client: nobody of the crew does them. */
const NOBODYS: ReadonlySet<string> = new Set(['client', 'milestone']);

const OF_ONE_ENGAGEMENT: ReadonlySet<CustomFieldKind> = new Set(['date', 'person', 'link']);

function presetsOf(task: PlannedTask): TemplateTask {
  const { id, phaseId, parentId, title, description, kind, estimateMinutes, days, anchor, after, steps, priority } = task;
  const { labels, deliverable, pageLinks, files, customFields, outside, isShownToClient, isChargeable } = task;
  const roleId = task.kind === 'client' ? null : (task.roleId ?? task.roleOfAssignee);
  return {
    ...{ id, phaseId, parentId, title, description, kind, estimateMinutes, days, anchor, after, steps, priority },
    ...{ labels, deliverable, pageLinks, files, customFields, outside, isShownToClient, isChargeable },
    roleId,
    personId: null,
    helperPersonIds: [],
    helperRoleIds: task.kind === 'client' ? [] : task.helperRoleIds.filter((id) => id !== roleId),
  };
}

/** The anchor of a task; null when its day lies before its phase, which no anchor can express. */
function anchorOf(task: PlannedTask, calendar: Calendar, phaseStart: IsoDay): TemplateTask['anchor'] | null {
  const day = task.fixedDay ?? task.notBefore;
  if (day === null) return task.anchor;
  const offset = rank(calendar, parseDay(day) as number) - rank(calendar, parseDay(phaseStart) as number);
  return offset < 0 ? null : { at: 'phase-start', offset };
}

/** What a finished task really took; the rest keeps what was planned. */
function realMeasures(task: PlannedTask, calendar: Calendar): Partial<Pick<TemplateTask, 'estimateMinutes' | 'days'>> {
  if (task.realStart === null || task.doneOn === null) return {};
  const days = workingDaysBetween(calendar, parseDay(task.realStart) as number, (parseDay(task.doneOn) as number) + 1);
  return {
    ...(task.days === 0 ? {} : { days: Math.max(1, days) }),
    ...(task.loggedMinutes === 0 ? {} : { estimateMinutes: Math.round(task.loggedMinutes / 15) * 15 || 15 }),
  };
}
