import { Note } from '../../ui/text.tsx';
import type { EngagementPlan } from '@crew/contract';
import { useState } from 'react';
import { useTemplateContent } from '../../api/queries.ts';
import { Choose } from '../../ui/Field.tsx';
import { Loading } from '../../ui/layout.tsx';
import { Sheet, SheetTitle } from '../../ui/Sheet.tsx';
import { count } from '../../words/format.ts';
import { PhaseTicks, usePhaseSources } from '../template/PhasePicker.tsx';
import { applyAt, ApplyPart } from './ApplyPart.tsx';

interface LibraryProps {
  readonly plan: EngagementPlan;
  readonly onClose: () => void;
}

/** Adding phases of the library to a running engagement: which, after which of its own, and what that would move. */
export function LibrarySheet({ plan, onClose }: LibraryProps) {
  const [templateId, setTemplate] = useState<string | null>(null);
  const sources = usePhaseSources();
  return (
    <Sheet label="Add phases from library" line="Library" onClose={onClose}>
      <SheetTitle>Add phases from library</SheetTitle>
      <Note>They come with their tasks, gate and handoff and are scheduled with the rest. This can be undone.</Note>
      <Choose label="From" isTight choices={sources} value={templateId} onChange={setTemplate} />
      {templateId === null ? null : <Phases key={templateId} templateId={templateId} plan={plan} onClose={onClose} />}
    </Sheet>
  );
}

function Phases({ templateId, plan, onClose }: LibraryProps & { readonly templateId: string }) {
  const { data: source } = useTemplateContent(templateId);
  const [chosen, setChosen] = useState<readonly string[] | null>(null);
  const open = plan.phases.filter((phase) => phase.state !== 'over');
  const [behind, setBehind] = useState(open[0]?.id ?? null);
  if (source === undefined) return <Loading rows={3} />;
  const { phases } = source.content;
  const ids = chosen ?? (phases.length === 1 ? phases.map((phase) => phase.id) : []);
  const path = `/engagements/${plan.engagement.id}/from-library`;
  const body = { templateId, phaseIds: ids, phaseId: behind };
  const names = phases.filter((phase) => ids.includes(phase.id)).map((phase) => phase.name);
  return (
    <>
      <PhaseTicks phases={phases} chosen={ids} onChange={setChosen} />
      <Choose label="Behind" isTight choices={open} value={behind} onChange={setBehind} />
      <ApplyPart
        ask={ids.length === 0 || behind === null ? null : { path: `${path}/preview`, body }}
        apply={() => applyAt(path, body)}
        action={`Add ${count(ids.length, 'phase')}`}
        said={`${names.join(', ')} added after ${open.find((phase) => phase.id === behind)?.name ?? ''}.`}
        onApplied={onClose}
      />
    </>
  );
}
