import { perform, type Performed } from '../../session/perform.ts';
import type { TaskSheet as Task } from '@crew/contract';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { OneMore } from '../../ui/form/OneMore.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { Light } from '../../ui/text.tsx';

const StepButton = styled(AriaButton)<{ $isDone: boolean }>`
  display: flex;
  align-items: center;
  gap: 9px;
  width: 100%;
  min-height: 27px;
  padding: 3px 0;
  border: 0;
  background: transparent;
  text-align: left;
  cursor: pointer;
  color: ${({ $isDone }) => ($isDone ? 'var(--ink-2)' : 'var(--ink)')};
  &::before {
    content: '${({ $isDone }) => ($isDone ? '✓' : '')}';
    display: grid;
    place-items: center;
    flex: none;
    width: 14px;
    height: 14px;
    border-radius: 3px;
    font-size: 10px;
    color: var(--panel);
    background: ${({ $isDone }) => ($isDone ? 'var(--moss)' : 'transparent')};
    border: 1.5px solid ${({ $isDone }) => ($isDone ? 'var(--moss)' : 'var(--ink-2)')};
  }
`;

/** The checklist of a task. */
export function Steps({ task }: { readonly task: Task }) {
  const add = (title: string): Promise<Performed<unknown>> => perform({ send: () => call('POST', `/tasks/${task.id}/steps`, { title }) });
  return (
    <SheetPart>
      <h3>Steps {task.stepsAll > 0 ? <Light>{`${task.stepsDone} of ${task.stepsAll}`}</Light> : null}</h3>
      {task.steps.map((step) => (
        <StepButton
          key={step.id}
          $isDone={step.isDone}
          aria-pressed={step.isDone}
          onPress={() => void perform({ send: () => call('PATCH', `/steps/${step.id}`, { isDone: !step.isDone }) })}
        >
          {step.title}
        </StepButton>
      ))}
      <OneMore label="Add a step" onAdd={add} />
    </SheetPart>
  );
}
