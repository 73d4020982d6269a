import { can, type EngagementPlan } from '@crew/contract';
import { useWho } from '../../session/session.tsx';
import { ForecastSheet } from '../forecast/ForecastSheet.tsx';
import type { Forecasting } from '../forecast/use-forecast.ts';
import { HandoffSheet } from '../handoff/HandoffSheet.tsx';
import { HistorySheet } from '../history/HistorySheet.tsx';
import type { Proposing } from '../plan-change/use-proposal.ts';
import { TaskSheet } from '../task/TaskSheet.tsx';
import type { TaskEditing } from '../task/use-task-edit.ts';
import { AboutSheet } from './AboutSheet.tsx';
import { CloseSheet } from './CloseSheet.tsx';
import { CompleteSheet } from './CompleteSheet.tsx';
import { BulkPanel } from './BulkPanel.tsx';
import { LibrarySheet } from './LibrarySheet.tsx';
import { PhaseSheet } from './PhaseSheet.tsx';
import { NewsSheet } from './NewsSheet.tsx';
import { chosenIn, isChoosing, type OnOpenSheet, type PlanSheet } from './plan-sheets.ts';

/** A plan as it is looked at: what is open beside it, and what is being done with it. */
export interface PlanViewProps {
  readonly plan: EngagementPlan;
  readonly sheet: PlanSheet | null;
  readonly editing: TaskEditing;
  readonly proposing: Proposing;
  readonly forecasting: Forecasting | undefined;
  readonly onOpen: OnOpenSheet;
}

/** The sheet that is open beside a plan. */
export function PlanSheets({ plan, sheet, editing, proposing, forecasting, onOpen }: PlanViewProps) {
  const me = useWho();
  const close = (): void => onOpen(null);
  switch (sheet?.kind) {
    case 'task': {
      const chosen = plan.tasks.filter((task) => chosenIn(sheet).includes(task.id));
      if (isChoosing(sheet)) return <BulkPanel plan={plan} chosen={chosen} onPropose={proposing.propose} onClose={close} />;
      return <TaskSheet taskId={sheet.id} editing={editing} onClose={close} onOpen={(id) => onOpen({ kind: 'task', id })} />;
    }
    case 'handoff':
      return <HandoffSheet handoffId={sheet.id} onClose={close} />;
    case 'phase':
      return can(me, 'engagement.edit') ? (
        <PhaseSheet phaseId={sheet.id} engagementId={plan.engagement.id} line={plan.engagement.name} onClose={close} />
      ) : null;
    case 'forecast':
      return <ForecastSheet plan={plan} forecasting={forecasting} onClose={close} />;
    case 'history':
      return <HistorySheet plan={plan} onClose={close} />;
    case 'about':
      return can(me, 'engagement.edit') ? <AboutSheet plan={plan} onClose={close} /> : null;
    case 'complete':
      return can(me, 'engagement.edit') ? <CompleteSheet plan={plan} onClose={close} /> : null;
    case 'close':
      return can(me, 'engagement.edit') ? <CloseSheet plan={plan} onClose={close} /> : null;
    case 'library':
      return <LibrarySheet plan={plan} onClose={close} />;
    case 'news':
      return <NewsSheet engagementId={plan.engagement.id} onClose={close} />;
    case undefined:
      return null;
  }
}
