import { compileCalendar, parseDay, schedule, workingDaysBetween, type CalendarInput, type IsoDay, type Schedule } from '@crew/core';
import type { LatePromise, Omission, PlanEngagement } from '@crew/contract';
import { Refusal, unwrap } from '../platform/refusal.ts';
import { cutTemplate, toSchedule } from './cut-template.ts';
import type { TemplateDocument } from './template.repository.ts';

/** More would be no help in choosing. */
const SHOWN = 5;

interface Asked {
  readonly template: TemplateDocument;
  readonly calendar: CalendarInput;
  readonly plan: PlanEngagement;
  readonly today: IsoDay;
}

/**
 * By how much a promise cannot be kept, begun on the day asked for or today, and which single phase,
 * deliverable or task of the longest chain would bring the finish nearer if it were left out: those that
 * are enough first, the least work first. Null when the promise can be kept, or none was given.
 */
export function latePromise(asked: Asked): LatePromise | null {
  const { template, calendar, plan, today } = asked;
  const { promise } = plan;
  if (promise === undefined) return null;
  const start = plan.start ?? today;
  const base = scheduled(asked, template, start);
  if (base.finish <= promise) return null;
  const compiled = unwrap(compileCalendar(calendar));
  const between = (from: IsoDay, to: IsoDay): number =>
    workingDaysBetween(compiled, (parseDay(from) as number) + 1, (parseDay(to) as number) + 1);
  const omissions = candidates(template, base).flatMap(({ without, ...part }): Omission[] => {
    const finish = finishWithout(asked, without, start);
    const days = finish === null ? 0 : between(finish, base.finish);
    return finish === null || days < 1 ? [] : [{ ...part, days, isEnough: finish <= promise }];
  });
  return { start, finish: base.finish, days: between(promise, base.finish), omissions: omissions.sort(byUse).slice(0, SHOWN) };
}

const byUse = (one: Omission, other: Omission): number =>
  Number(other.isEnough) - Number(one.isEnough) || (one.isEnough ? one.minutes - other.minutes : other.days - one.days);

const scheduled = ({ calendar, plan }: Asked, template: TemplateDocument, start: IsoDay): Schedule =>
  unwrap(schedule({ ...toSchedule(template, calendar, plan), start }));

type Without = Pick<PlanEngagement, 'withoutPhases' | 'withoutTasks' | 'withoutDeliverables'>;

function candidates(
  template: TemplateDocument,
  base: Schedule,
): (Pick<Omission, 'kind' | 'id' | 'name' | 'minutes'> & { readonly without: Without })[] {
  const leaves = template.tasks.filter((task) => !task.isGroup);
  const minutesOf = (isOf: (task: (typeof leaves)[number]) => boolean): number =>
    leaves.filter(isOf).reduce((sum, task) => sum + (task.estimateMinutes ?? 0), 0);
  const least = Math.min(...base.tasks.map(({ slack }) => slack));
  const longest = new Set(base.tasks.filter(({ slack }) => slack === least).map(({ id }) => id));
  const deliverables = [...new Set(template.tasks.flatMap(({ deliverable }) => deliverable ?? []))];
  const part = (
    kind: Omission['kind'],
    { id, name }: { readonly id: string; readonly name: string },
    without: Without & { readonly minutes: number },
  ) => {
    const { minutes, ...cut } = without;
    return { kind, id, name, minutes, without: cut };
  };
  return [
    ...template.phases.map((phase) =>
      part('phase', phase, { withoutPhases: [phase.id], minutes: minutesOf((task) => task.phaseId === phase.id) }),
    ),
    ...deliverables.map((name) =>
      part('deliverable', { id: name, name }, { withoutDeliverables: [name], minutes: minutesOf((task) => task.deliverable === name) }),
    ),
    ...leaves
      .filter(({ id, days }) => longest.has(id) && days > 0)
      .map(({ id, title, estimateMinutes }) => part('task', { id, name: title }, { withoutTasks: [id], minutes: estimateMinutes ?? 0 })),
  ];
}

/** The finish without a part; null when nothing would be left. */
function finishWithout(asked: Asked, without: Without, start: IsoDay): IsoDay | null {
  try {
    return scheduled(asked, cutTemplate(asked.template, without), start).finish;
  } catch (error) {
    if (error instanceof Refusal) return null;
    throw error;
  }
}
