import type { TaskSheet as Task } from '@crew/contract';
import styled from 'styled-components';
import { Field } from '../../ui/Field.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import type { OnEdit } from './editors.tsx';
import { useDraft } from './use-draft.ts';

const Title = styled.input`
  width: 100%;
  border: 1px solid transparent;
  border-radius: 5px;
  background: transparent;
  padding: 2px 5px;
  margin: 0 -6px;
  font:
    650 19px/1.25 'Bricolage Grotesque Variable',
    sans-serif;
  &:hover {
    border-color: var(--line);
  }
  &:focus {
    background: var(--panel);
    border-color: var(--petrol);
    outline: none;
  }
`;

interface TextProps {
  readonly task: Task;
  readonly isReadOnly: boolean;
  readonly isMet: boolean;
  readonly onEdit: OnEdit;
}

/** The title, saved when it is left. */
export function TitleField({ task, isReadOnly, isMet, onEdit }: TextProps) {
  const draft = useDraft(task.title, task.version, isMet);
  const save = (): void => {
    if (draft.value.trim() === '' || draft.value === draft.base) return draft.drop();
    void onEdit({ title: draft.value }, draft.version).then((isSaved) => {
      if (isSaved) draft.drop();
    });
  };
  return (
    <Title
      aria-label="Title"
      value={draft.value}
      readOnly={isReadOnly}
      onChange={(event) => draft.change(event.target.value)}
      onBlur={save}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
      }}
    />
  );
}

/** Description, saved when it is left. */
export function Description({ task, isReadOnly, isMet, onEdit }: TextProps) {
  const draft = useDraft(task.description, task.version, isMet);
  const save = (): void => {
    if (draft.value === draft.base) return draft.drop();
    // What was refused stays in the field: a description is too long to be typed twice.
    void onEdit({ description: draft.value }, draft.version).then((isSaved) => {
      if (isSaved) draft.drop();
    });
  };
  return (
    <SheetPart>
      <Field
        isLong
        isTight
        label="Description"
        value={draft.value}
        onChange={draft.change}
        onBlur={save}
        isReadOnly={isReadOnly}
        placeholder="Context, links, what good looks like"
      />
    </SheetPart>
  );
}
