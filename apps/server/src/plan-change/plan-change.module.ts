import { commandBy, type Area } from '../platform/area.ts';
import { ChangePlan } from './change-plan.ts';
import { Deliverables } from './deliverables.ts';
import { EditPhase } from './edit-phase.ts';
import { GiveRole } from './give-role.ts';
import { KeepBaseline } from './keep-baseline.ts';
import { PlanChangeController } from './plan-change.controller.ts';
import { PreviewCalendar } from './preview-calendar.ts';
import { ReadFollowed } from './read-followed.ts';
import { UndoChange } from './undo-change.ts';
import { RECORD_EVENTS, UndoRecords } from './undo-records.ts';

export const planChange: Area = {
  controllers: [PlanChangeController],
  providers: [ChangePlan, UndoChange, UndoRecords, ReadFollowed, PreviewCalendar, KeepBaseline, Deliverables, EditPhase, GiveRole],
  undoing: [{ kinds: RECORD_EVENTS, by: UndoRecords }],
  commands: [commandBy({ name: 'plan.change', by: ChangePlan, run: (plans, who, { target, input }) => plans.run(who, target, input) })],
};
