import { useState } from 'react';
import { Dialog, DialogTrigger } from 'react-aria-components';
import { useTemplateContent, useTemplates } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { Choose, PopoverPanel } from '../../ui/Field.tsx';
import { Loading } from '../../ui/layout.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { count } from '../../words/format.ts';
import { compose } from './content.ts';
import type { TemplateEditor } from './use-template-editor.ts';

/** Puts phases of other templates at the end of this one. */
export function ComposeButton({ editor }: { readonly editor: TemplateEditor }) {
  return (
    <DialogTrigger>
      <Button>Add phases from another template…</Button>
      <PopoverPanel style={{ maxHeight: 'none' }}>
        <Dialog aria-label="Add phases from another template" style={{ outline: 'none', padding: 10, width: 330 }}>
          {({ close }) => <ComposeForm editor={editor} onClose={close} />}
        </Dialog>
      </PopoverPanel>
    </DialogTrigger>
  );
}

function ComposeForm({ editor, onClose }: { readonly editor: TemplateEditor; readonly onClose: () => void }) {
  const { data: templates = [] } = useTemplates();
  const [sourceId, setSource] = useState<string | null>(null);
  const choices = templates
    .filter((template) => template.id !== editor.view.id && !template.isArchived && template.kind !== 'task')
    .map(({ id, name, phases, taskCount }) => ({ id, name, detail: `${count(phases.length, 'phase')}, ${count(taskCount, 'task')}` }));
  return (
    <>
      <Choose label="From" isTight choices={choices} value={sourceId} onChange={setSource} />
      {sourceId === null ? null : <Phases key={sourceId} sourceId={sourceId} editor={editor} onClose={onClose} />}
    </>
  );
}

interface PhasesProps {
  readonly sourceId: string;
  readonly editor: TemplateEditor;
  readonly onClose: () => void;
}

function Phases({ sourceId, editor, onClose }: PhasesProps) {
  const { data: source } = useTemplateContent(sourceId);
  const [chosen, setChosen] = useState<ReadonlySet<string> | null>(null);
  if (source === undefined) return <Loading rows={2} />;
  const phases = source.content.phases;
  const ids = chosen ?? new Set(phases.length === 1 ? phases.map((phase) => phase.id) : []);
  const turn = (id: string): void => setChosen(new Set(ids.has(id) ? [...ids].filter((other) => other !== id) : [...ids, id]));
  return (
    <>
      <ul style={{ margin: '8px 0', maxHeight: 260, overflow: 'auto' }}>
        {phases.map((phase) => (
          <li key={phase.id}>
            <Tick isSelected={ids.has(phase.id)} onChange={() => turn(phase.id)}>
              {phase.name}
            </Tick>
          </li>
        ))}
      </ul>
      <Button
        kind="primary"
        isDisabled={ids.size === 0}
        onPress={() => {
          editor.edit(compose(source.content, [...ids]));
          onClose();
        }}
      >
        Put {count(ids.size, 'phase')} at the end
      </Button>
    </>
  );
}
