import type { TemplateContent, TemplateTask } from '@crew/core';
import { useState, type ReactNode } from 'react';
import styled from 'styled-components';
import { useCrew } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field, type Choice } from '../../ui/Field.tsx';
import { phone } from '../../ui/tokens.ts';
import { addEnding, addNext, addTask, CLIENT_LANE, connect, inLane, laneOf, newId, NOBODY_LANE } from './content.ts';
import type { TemplateEditor } from './use-template-editor.ts';

const Row = styled.form`
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 8px;
  margin: 6px 0;
  > * {
    flex: 1 1 130px;
    max-width: 230px;
  }
  > [data-wide] {
    flex: 2 1 190px;
    max-width: 420px;
  }
  > [data-buttons] {
    display: flex;
    flex: none;
    max-width: none;
  }
  ${phone} {
    > *,
    > [data-wide] {
      max-width: none;
    }
  }
`;

/** Who can do a step: every role, the client, or unassigned; undefined until the roles are known. */
export function useLaneChoices(): readonly Choice[] | undefined {
  const roles = useCrew().data?.roles;
  return roles && [...roles, { id: CLIENT_LANE, name: 'The client' }, { id: NOBODY_LANE, name: 'Unassigned' }];
}

type NextKind = 'new' | 'step' | 'ending';
const NEXT: readonly { readonly id: NextKind; readonly name: string }[] = [
  { id: 'new', name: 'a new step' },
  { id: 'step', name: 'an existing step' },
  { id: 'ending', name: 'it ends' },
];

interface NextFormProps {
  readonly task: TemplateTask;
  readonly editor: TemplateEditor;
  /** Given the id of the step that was added, or null for an arrow or an ending. */
  readonly onAdded: (id: string | null) => void;
  readonly onClose: () => void;
}

/** What happens after a step: a new one, one that is there (earlier ones make a loop), or an ending. */
export function NextForm({ task, editor, onAdded, onClose }: NextFormProps) {
  const { content, edit } = editor;
  const [kind, setKind] = useState<NextKind>('new');
  const [text, setText] = useState('');
  const [reason, setReason] = useState('');
  const [otherId, setOther] = useState<string | null>(null);
  const [laneId, setLane] = useState(laneOf(task));
  const [phaseId, setPhase] = useState(task.phaseId);
  const isReady = kind === 'new' ? text.trim() !== '' : kind === 'step' ? otherId !== null : text.trim() !== '' && reason.trim() !== '';
  const add = (): void => {
    if (!isReady) return;
    const id = newId();
    if (kind === 'new') edit(addNext(id, task.id, { title: text.trim(), laneId, phaseId }));
    else if (kind === 'step') edit(connect(task.id, otherId as string, { id, reason: reason.trim() || 'changes' }));
    else edit(addEnding(task.id, { id, reason: reason.trim(), ending: text.trim() }));
    onAdded(kind === 'new' ? id : null);
  };
  return (
    <StepForm label={`What happens after ${task.title}`} isReady={isReady} onAdd={add} onClose={onClose}>
      <Choose label="Next" isTight choices={NEXT} value={kind} onChange={(id) => setKind(id as NextKind)} />
      {kind === 'step' ? (
        <div data-wide>
          <Choose
            label="Which step"
            isTight
            choices={content.tasks
              .filter((other) => other.id !== task.id && other.parentId === null)
              .map((other) => ({ id: other.id, name: other.title }))}
            value={otherId}
            onChange={setOther}
          />
        </div>
      ) : (
        <div data-wide>
          <Field
            label={kind === 'new' ? 'The step' : 'How it ends'}
            isTight
            value={text}
            onChange={setText}
            autoFocus
            placeholder={kind === 'new' ? 'e.g. Write the script' : 'e.g. Closed: not a fit'}
          />
        </div>
      )}
      {kind === 'new' ? (
        <Where content={content} laneId={laneId} phaseId={phaseId} onLane={setLane} onPhase={setPhase} />
      ) : (
        <Field label="Only when" isTight value={reason} onChange={setReason} placeholder={kind === 'ending' ? 'not a fit' : 'changes'} />
      )}
    </StepForm>
  );
}

interface NewStepProps {
  readonly editor: TemplateEditor;
  readonly at: { readonly laneId: string; readonly phaseId: string };
  readonly onAdded: (id: string) => void;
  readonly onClose: (() => void) | null;
}

/** A step that waits for nothing: the first of all, or one that goes beside the others. */
export function NewStep({ editor, at, onAdded, onClose }: NewStepProps) {
  const [title, setTitle] = useState('');
  const [laneId, setLane] = useState(at.laneId);
  const [phaseId, setPhase] = useState(at.phaseId);
  const add = (): void => {
    const id = newId();
    editor.edit(addTask(id, { phaseId, title: title.trim(), ...inLane(laneId) }));
    onAdded(id);
  };
  return (
    <StepForm label="A new step" isReady={title.trim() !== ''} onAdd={add} onClose={onClose}>
      <div data-wide>
        <Field
          label={editor.content.tasks.length === 0 ? 'What happens first?' : 'The step'}
          isTight
          value={title}
          onChange={setTitle}
          autoFocus
          placeholder="e.g. First call"
        />
      </div>
      <Where content={editor.content} laneId={laneId} phaseId={phaseId} onLane={setLane} onPhase={setPhase} />
    </StepForm>
  );
}

interface WhereProps {
  readonly content: TemplateContent;
  readonly laneId: string;
  readonly phaseId: string;
  readonly onLane: (id: string) => void;
  readonly onPhase: (id: string) => void;
}

/** The lane and the phase a step stands in. */
export function Where({ content, laneId, phaseId, onLane, onPhase }: WhereProps) {
  const lanes = useLaneChoices();
  return (
    <>
      <Choose label="Who does it" isTight choices={lanes} value={laneId} onChange={onLane} />
      <Choose label="In phase" isTight choices={content.phases} value={phaseId} onChange={onPhase} />
    </>
  );
}

interface StepFormProps {
  readonly label: string;
  readonly isReady: boolean;
  readonly onAdd: () => void;
  /** Null where there is nothing else to do but to add. */
  readonly onClose: (() => void) | null;
  readonly children: ReactNode;
}

function StepForm({ label, isReady, onAdd, onClose, children }: StepFormProps) {
  return (
    <Row
      aria-label={label}
      onSubmit={(event) => {
        event.preventDefault();
        if (isReady) onAdd();
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape' && onClose !== null) onClose();
      }}
    >
      {children}
      <span data-buttons>
        <Button kind="primary" type="submit" isDisabled={!isReady}>
          Add
        </Button>
        {onClose === null ? null : (
          <Button kind="quiet" onPress={onClose}>
            Cancel
          </Button>
        )}
      </span>
    </Row>
  );
}
