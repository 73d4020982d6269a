import { Quiet, Toned } from '../../ui/text.tsx';
import type { TemplateContent, TemplateTask } from '@crew/core';
import { useState } from 'react';
import styled from 'styled-components';
import { useCrew } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { Panel } from '../../ui/layout.tsx';
import { Tag } from '../../ui/marks.tsx';
import { count } from '../../words/format.ts';
import { addPhase, addTask, newId, removeWay, removeDependency } from './content.ts';
import { NextForm } from './NextForm.tsx';
import { OneLine } from './OneLine.tsx';
import type { TemplateEditor } from './use-template-editor.ts';

const PhaseTitle = styled.h2`
  color: var(--ink);
`;

const Body = styled.div`
  padding: 4px 14px 10px;
`;

const Phase = styled(Panel)`
  margin-bottom: 12px;
  > header {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 4px 10px;
    padding: 10px 14px;
    border-bottom: 1px solid var(--line-2);
  }
`;
const Step = styled.li`
  display: grid;
  grid-template-columns: minmax(150px, 220px) minmax(0, 1fr);
  gap: 2px 16px;
  padding: 9px 14px;
  border-top: 1px solid var(--line-2);
  &:first-child {
    border-top: 0;
  }
  small {
    color: var(--ink-2);
    font-size: 12px;
  }
`;
const Next = styled.ul`
  display: flex;
  flex-direction: column;
  gap: 2px;
  > li {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 2px 8px;
  }
`;

interface StepListProps {
  readonly editor: TemplateEditor;
  readonly isReadOnly: boolean;
  readonly onOpen: (id: string) => void;
}

/** The same steps for those who do not draw: of each, what happens next, in words; all of it can be changed here. */
export function StepList({ editor, isReadOnly, onOpen }: StepListProps) {
  const { content, edit } = editor;
  return (
    <>
      {content.phases.map((phase) => (
        <Phase key={phase.id} aria-label={phase.name}>
          <header>
            <Button kind="text" onPress={() => onOpen(phase.id)}>
              <PhaseTitle>{phase.name}</PhaseTitle>
            </Button>
            <Quiet>“{phase.stateLine}”</Quiet>
            {phase.rounds === null ? null : <Tag>{count(phase.rounds, 'round')} agreed</Tag>}
          </header>
          <ul>
            {content.tasks
              .filter((task) => task.phaseId === phase.id && task.parentId === null)
              .map((task) => (
                <StepLine key={task.id} task={task} editor={editor} isReadOnly={isReadOnly} onOpen={onOpen} />
              ))}
          </ul>
          {isReadOnly ? null : (
            <Body>
              <OneLine
                label={`Another first step of ${phase.name}`}
                button="Add a step"
                onAdd={(title) => edit(addTask(newId(), { phaseId: phase.id, title }))}
              />
            </Body>
          )}
        </Phase>
      ))}
      {isReadOnly ? null : <OneLine label="Name of a new phase" button="Add a phase" onAdd={(name) => edit(addPhase(newId(), name))} />}
    </>
  );
}

function StepLine({ task, editor, isReadOnly, onOpen }: StepListProps & { readonly task: TemplateTask }) {
  const { content, edit } = editor;
  const roles = useCrew().data?.roles ?? [];
  const [adding, setAdding] = useState(false);
  const who = task.kind === 'client' ? 'the client' : (roles.find((role) => role.id === task.roleId)?.name ?? 'unassigned');
  const next = content.tasks.filter((other) => other.parentId === null && other.after.some((dependency) => dependency.taskId === task.id));
  const ways = content.ways.filter((way) => way.fromId === task.id);
  const parts = content.tasks.filter((other) => other.parentId === task.id).length;
  return (
    <Step>
      <div>
        <Button kind="text" onPress={() => onOpen(task.id)}>
          {task.title}
        </Button>
        <br />
        <small>
          {who}
          {parts === 0 ? '' : ` · ${count(parts, 'subtask')}`}
        </small>
      </div>
      <Next aria-label={`What happens after ${task.title}`}>
        {next.length === 0 && ways.length === 0 ? <Quiet as="li">Nothing follows it in this template.</Quiet> : null}
        {next.map((other) => (
          <li key={other.id}>
            → {other.title}
            {isReadOnly ? null : (
              <Button
                kind="quiet"
                aria-label={`${task.title} does not lead to ${other.title}`}
                onPress={() => edit(removeDependency(task.id, other.id))}
              >
                ✕
              </Button>
            )}
          </li>
        ))}
        {ways.map((way) => (
          <Toned key={way.id} as="li" $tone={way.toId === null ? 'quiet' : 'waiting'}>
            when “{way.reason}” → {way.toId === null ? way.ending : `back to ${titleOf(content, way.toId)}`}
            {isReadOnly ? null : (
              <Button kind="quiet" aria-label={`Remove outcome ${way.reason}`} onPress={() => edit(removeWay(way.id))}>
                ✕
              </Button>
            )}
          </Toned>
        ))}
        {isReadOnly ? null : adding ? (
          <NextForm task={task} editor={editor} onAdded={() => setAdding(false)} onClose={() => setAdding(false)} />
        ) : (
          <li>
            <Button kind="text" onPress={() => setAdding(true)}>
              And what happens next?
            </Button>
          </li>
        )}
      </Next>
    </Step>
  );
}

const titleOf = (content: TemplateContent, id: string): string => content.tasks.find((task) => task.id === id)?.title ?? '';
