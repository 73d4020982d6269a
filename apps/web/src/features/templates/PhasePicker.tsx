import type { TemplateContent } from '@crew/core';
import { useState } from 'react';
import { useTemplateContent, useTemplates } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { Choose } from '../../ui/Field.tsx';
import { Loading } from '../../ui/layout.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { count } from '../../words/format.ts';

interface PickerProps {
  /** The template they are put into: nothing is taken from itself. */
  readonly exceptId: string;
  /** Phases that are there already. */
  readonly without: readonly string[];
  readonly onPick: (source: { readonly id: string; readonly content: TemplateContent }, phaseIds: readonly string[]) => void;
}

/** Phases of another template, to be put at the end of what there is. */
export function PhasePicker(props: PickerProps) {
  const { data: templates = [] } = useTemplates();
  const [sourceId, setSource] = useState<string | null>(null);
  const choices = templates
    .filter((template) => template.id !== props.exceptId && !template.isArchived && template.kind !== 'task')
    .map(({ id, name, phases, taskCount }) => ({ id, name, detail: `${count(phases.length, 'phase')}, ${count(taskCount, 'task')}` }));
  return (
    <>
      <Choose label="From" isTight choices={choices} value={sourceId} onChange={setSource} />
      {sourceId === null ? null : <Phases key={sourceId} sourceId={sourceId} {...props} />}
    </>
  );
}

function Phases({ sourceId, without, onPick }: PickerProps & { readonly sourceId: string }) {
  const { data: source } = useTemplateContent(sourceId);
  const [chosen, setChosen] = useState<readonly string[] | null>(null);
  if (source === undefined) return <Loading rows={2} />;
  const phases = source.content.phases.filter((phase) => !without.includes(phase.id));
  if (phases.length === 0) return <p style={{ marginTop: 8 }}>All of it is in there already.</p>;
  const ids = chosen ?? (phases.length === 1 ? phases.map((phase) => phase.id) : []);
  const turn = (id: string): void => setChosen(ids.includes(id) ? ids.filter((other) => other !== id) : [...ids, id]);
  return (
    <>
      <ul style={{ margin: '8px 0', maxHeight: 260, overflow: 'auto' }}>
        {phases.map((phase) => (
          <li key={phase.id}>
            <Tick isSelected={ids.includes(phase.id)} onChange={() => turn(phase.id)}>
              {phase.name}
            </Tick>
          </li>
        ))}
      </ul>
      <Button kind="primary" isDisabled={ids.length === 0} onPress={() => onPick(source, ids)}>
        Put {count(ids.length, 'phase')} at the end
      </Button>
    </>
  );
}
