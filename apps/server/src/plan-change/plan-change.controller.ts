import { Body, Controller, Delete, Get, HttpCode, Param, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import {
  AddDeliverable,
  ChangePlan as ChangeInput,
  EditPhase as EditPhaseInput,
  GiveRole as GiveRoleInput,
  type EngagementRoleLine,
  type PhaseView,
  type CalendarEffect,
  type ChangeFollowed,
  type ChangeUndone,
  type Made,
  type PlanChanged,
  type PlanEffect,
  PreviewCalendar as PreviewCalendarInput,
} from '@crew/contract';
import { PathId } from '../platform/query-pipes.ts';
import { Answers } from '../platform/answers.ts';
import { TakesLarge } from '../platform/read-body.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { ChangePlan } from './change-plan.ts';
import { Deliverables } from './deliverables.ts';
import { EditPhase } from './edit-phase.ts';
import { GiveRole } from './give-role.ts';
import { KeepBaseline } from './keep-baseline.ts';
import { PreviewCalendar } from './preview-calendar.ts';
import { ReadFollowed } from './read-followed.ts';
import { UndoChange } from './undo-change.ts';

@ApiTags('plans')
@Controller()
export class PlanChangeController {
  private readonly calendars: PreviewCalendar;
  private readonly plans: ChangePlan;
  private readonly undoing: UndoChange;
  private readonly followed: ReadFollowed;
  private readonly baseline: KeepBaseline;
  private readonly deliverables: Deliverables;
  private readonly phases: EditPhase;
  private readonly roles: GiveRole;

  constructor(
    calendars: PreviewCalendar,
    plans: ChangePlan,
    undoing: UndoChange,
    followed: ReadFollowed,
    baseline: KeepBaseline,
    deliverables: Deliverables,
    phases: EditPhase,
    roles: GiveRole,
  ) {
    this.calendars = calendars;
    this.plans = plans;
    this.undoing = undoing;
    this.followed = followed;
    this.baseline = baseline;
    this.deliverables = deliverables;
    this.phases = phases;
    this.roles = roles;
  }

  /** Who does the work of each role in an engagement, and how much of it is open. */
  @Get('engagements/:id/roles')
  @Answers('EngagementRoleLine', { isList: true })
  @Allow('engagement.open')
  listRoles(@Caller() who: Who, @Param('id', PathId) id: string): Promise<readonly EngagementRoleLine[]> {
    return this.roles.list(who, id);
  }

  /** Reassigns a role as a whole, with the open tasks of its present holder; undone as one. 409 when somebody else has it now. */
  @Post('engagements/:id/roles')
  @Answers('PlanChanged')
  @HttpCode(200)
  @Allow('engagement.edit')
  giveRole(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: GiveRoleInput): Promise<PlanChanged> {
    return this.roles.run(who, id, input);
  }

  /** What reassigning a role would do to everybody's load. Saves nothing. */
  @Post('engagements/:id/roles/preview')
  @Answers('PlanEffect')
  @HttpCode(200)
  @Allow('engagement.edit')
  previewRole(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: GiveRoleInput): Promise<PlanEffect> {
    return this.roles.preview(who, id, input);
  }

  /** A phase with its gate, to be edited. */
  @Get('phases/:id')
  @Answers('PhaseView')
  @Allow('engagement.open')
  readPhase(@Caller() who: Who, @Param('id', PathId) id: string): Promise<PhaseView> {
    return this.phases.read(who, id);
  }

  /** Changes a phase of an engagement that runs: name, state line, owning role, gate. 409 when somebody else changed it since. */
  @Patch('phases/:id')
  @Answers('PlanChanged')
  @Allow('engagement.edit')
  editPhase(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: EditPhaseInput): Promise<PlanChanged> {
    return this.phases.run(who, id, input);
  }

  /** What a change of the plan would move, clash with and overload. Saves nothing. */
  @Post('engagements/:id/changes/preview')
  @TakesLarge({ bytes: 2 * 1024 * 1024 })
  @Answers('PlanEffect')
  @HttpCode(200)
  @Allow('plan.edit')
  preview(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: ChangeInput): Promise<PlanEffect> {
    return this.plans.preview(who, id, input);
  }

  /** Changes any number of tasks together, all or none. 409 with `details.current` when one was changed meanwhile. */
  @Post('engagements/:id/changes')
  @TakesLarge({ bytes: 2 * 1024 * 1024 })
  @Answers('PlanChanged')
  @Allow('plan.edit')
  change(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: ChangeInput): Promise<PlanChanged> {
    return this.plans.run(who, id, input);
  }

  /** What closing days, removing closed days, or another week would do to everything open. Saves nothing. */
  @Post('calendar/preview')
  @Answers('CalendarEffect')
  @HttpCode(200)
  @Allow('calendar.edit')
  previewCalendar(@Caller() who: Who, @Body() input: PreviewCalendarInput): Promise<CalendarEffect> {
    return this.calendars.run(who, input);
  }

  /** What a status moved, once the plan behind it has been computed. */
  @Get('changes/:id/followed')
  @Answers('ChangeFollowed')
  @Allow('history.read')
  readFollowed(@Caller() who: Who, @Param('id', PathId) id: string): Promise<ChangeFollowed> {
    return this.followed.run(who, id);
  }

  /**
   * Undoes a change, field by field; answers what somebody changed since, which stays, and the id that
   * brings the change back. 409 when all of it was changed since. A freelancer undoes changes of own
   * tasks.
   */
  @Post('changes/:id/undo')
  @Answers('ChangeUndone')
  @HttpCode(200)
  @Allow('plan.undo')
  undo(@Caller() who: Who, @Param('id', PathId) id: string): Promise<ChangeUndone> {
    return this.undoing.run(who, id);
  }

  /** Saves the plan as it is as the baseline. */
  @Post('engagements/:id/baseline')
  @HttpCode(204)
  @Allow('engagement.edit')
  keepBaseline(@Caller() who: Who, @Param('id', PathId) id: string): Promise<void> {
    return this.baseline.run(who, id);
  }

  @Post('engagements/:id/deliverables')
  @Answers('Made')
  @Allow('plan.edit')
  addDeliverable(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: AddDeliverable): Promise<Made> {
    return this.deliverables.add(who, id, input);
  }

  @Delete('deliverables/:id')
  @HttpCode(204)
  @Allow('plan.edit')
  removeDeliverable(@Caller() who: Who, @Param('id', PathId) id: string): Promise<void> {
    return this.deliverables.remove(who, id);
  }
}
