import { Note } from '../../ui/text.tsx';
import type { TemplateContent } from '@crew/core';
import { useTemplateContent, useTemplates } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { Choose } from '../../ui/Field.tsx';
import { count, hourWords } from '../../words/format.ts';

/** Tasks kept in the library, as choices; undefined until they are known. */
export function useKeptTasks() {
  const { data: templates } = useTemplates();
  return templates
    ?.filter((template) => template.kind === 'task' && !template.isArchived)
    .map(({ id, name, taskCount, effortMinutes }) => ({
      id,
      name,
      detail: [taskCount > 1 ? count(taskCount, 'task') : '', effortMinutes === 0 ? 'no effort for us' : hourWords(effortMinutes)]
        .filter((word) => word !== '')
        .join(', '),
    }));
}

interface KeptPickerProps {
  readonly value: string | null;
  readonly onChange: (id: string) => void;
}

/** Chooses a kept task; with none in the library it says how one gets there. */
export function KeptChoice({ value, onChange }: KeptPickerProps) {
  const kept = useKeptTasks();
  if (kept?.length === 0) return <Note>No saved tasks yet. Use “Save as template” on a task to add one.</Note>;
  return <Choose label="Saved task" isTight choices={kept} value={value} onChange={onChange} />;
}

interface PutProps {
  readonly templateId: string;
  readonly onPut: (source: { readonly id: string; readonly content: TemplateContent }) => void;
}

/** Puts a kept task where it was asked for, once its content is here. */
export function PutKept({ templateId, onPut }: PutProps) {
  const { data: source } = useTemplateContent(templateId);
  return (
    <Button kind="primary" isDisabled={source === undefined} onPress={() => source !== undefined && onPut(source)}>
      Add here
    </Button>
  );
}
