import type { EngagementPlan } from '@crew/contract';
import { Sheet, SheetTitle } from '../../ui/Sheet.tsx';
import { ThingHistory } from './ThingHistory.tsx';

/** What happened in an engagement, beside its plan. */
export function HistorySheet({ plan, onClose }: { readonly plan: EngagementPlan; readonly onClose: () => void }) {
  const { id, name } = plan.engagement;
  return (
    <Sheet label="History of the engagement" line="History" onClose={onClose}>
      <SheetTitle>{name}</SheetTitle>
      <ThingHistory query={`engagement=${id}`} isNamed />
    </Sheet>
  );
}
