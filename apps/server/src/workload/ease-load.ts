import { Injectable } from '@nestjs/common';
import type { EaseProposalView, EaseStepView, EaseView } from '@crew/contract';
import { compileCalendar, easeLoad, parseDay, workingDaysBetween, type Calendar, type EaseProposal, type IsoDay } from '@crew/core';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { requireFound, unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { refOf, toEffect } from '../load/people-touched.ts';
import { KeepLoad } from '../load/keep-load.ts';
import { readKnown } from '../load/known.ts';
import { toLoadInput, type LoadFacts, type LoadTaskFacts, type PersonFacts } from '../load/load-facts.ts';

/** What could ease one person's load within some days, computed by the core on the real load. Saves nothing. */
@Injectable()
export class EaseLoad {
  private readonly database: Database;
  private readonly keeping: KeepLoad;
  private readonly clock: Clock;
  constructor(database: Database, keeping: KeepLoad, clock: Clock) {
    this.database = database;
    this.keeping = keeping;
    this.clock = clock;
  }

  async run(who: Who, asked: { readonly person: string; readonly from: IsoDay; readonly to: IsoDay }): Promise<EaseView> {
    const today = this.clock.today();
    const from = asked.from < today ? today : asked.from;
    const to = asked.to < from ? from : asked.to;
    const { manager } = this.database;
    const [now, known] = await Promise.all([this.keeping.read(who.agencyId), readKnown(manager, who.agencyId)]);
    const facts = now.facts();
    const person = requireFound(facts.people.find((candidate) => candidate.id === asked.person) ?? null, 'person');
    const ease = unwrap(
      easeLoad({
        ...toLoadInput(facts, { today, from, to }),
        person: person.id,
        people: facts.people.map((each) => ({ ...each, roles: each.roleIds, knows: known.get(each.id) ?? [] })),
        tasks: facts.tasks.map(toEaseTask),
      }),
    );
    const naming = namingOf(facts, unwrap(compileCalendar(facts.calendar)));
    return {
      person: refOf(person),
      over: ease.over,
      overDays: ease.overDays,
      proposals: ease.proposals.map((proposal) => toProposal(proposal, naming)),
    };
  }
}

const toEaseTask = (task: LoadTaskFacts) => ({
  ...task,
  role: task.roleId ?? null,
  stays: task.fixedDay !== undefined,
  begun: task.isBegun,
  coming: task.isComing === true,
  for: [task.engagementId, task.clientId],
});

interface Naming {
  readonly people: ReadonlyMap<string, PersonFacts>;
  readonly tasks: ReadonlyMap<string, LoadTaskFacts>;
  readonly calendar: Calendar;
}

const namingOf = (facts: LoadFacts, calendar: Calendar): Naming => ({
  people: new Map(facts.people.map((person) => [person.id, person])),
  tasks: new Map(facts.tasks.map((task) => [task.id, task])),
  calendar,
});

function toProposal(proposal: EaseProposal, naming: Naming): EaseProposalView {
  const task = naming.tasks.get(proposal.task) as LoadTaskFacts;
  const { start, due, relieved, deadlinesMoved, effects, step } = proposal;
  return {
    ...{ start, due, relieved, deadlinesMoved },
    id: [step.kind, task.id, personOf(step) ?? ''].join(' ').trim(),
    task: { id: task.id, title: task.title },
    engagement: { id: task.engagementId, name: task.engagement, hue: task.hue, promise: task.promise ?? null },
    step: toStep(proposal, naming),
    effects: effects.map((effect) => toEffect(effect, naming.people)),
    change: toChange(proposal, task, naming.calendar),
  };
}

const personOf = (step: EaseProposal['step']): string | null => (step.kind === 'give' ? step.to : step.kind === 'split' ? step.with : null);

function toStep({ step }: EaseProposal, { people }: Naming): EaseStepView {
  if (step.kind !== 'give' && step.kind !== 'split') return step;
  const person = people.get(personOf(step) ?? '') as PersonFacts;
  const { freeMinutes, knows } = step;
  const common = { person: refOf(person), role: person.roles[0] ?? null, freeMinutes, knows };
  return step.kind === 'give' ? { kind: 'give', ...common } : { kind: 'split', ...common, minutes: step.minutes, keeps: step.keeps };
}

/** The change of the plan that takes the step; the planner then places what follows. */
function toChange({ step, start, due, assignees }: EaseProposal, task: LoadTaskFacts, calendar: Calendar): EaseProposalView['change'] {
  const touched = { id: task.id, version: task.version };
  if (step.kind === 'give' || step.kind === 'split')
    return { ...touched, assigneeIds: assignees.map(({ person }) => person), shares: assignees.map(({ share }) => share) };
  if (step.kind === 'extend' || task.isBegun) {
    // What is under way keeps its real start: its length is whatever ends it on the new day.
    const days = task.isBegun
      ? workingDaysBetween(calendar, parseDay(task.start) as number, (parseDay(due) as number) + 1)
      : task.days + step.days;
    return { ...touched, days };
  }
  return { ...touched, notBefore: start };
}
