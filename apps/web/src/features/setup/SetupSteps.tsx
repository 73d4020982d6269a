import type { SetupState } from '@crew/contract';
import type { ReactNode } from 'react';
import styled from 'styled-components';
import { ButtonLink } from '../../ui/Button.tsx';
import { Muted, Panel, PanelHead, Push } from '../../ui/layout.tsx';
import { phone } from '../../ui/tokens.ts';
import { STEP_WORDS } from './steps.ts';

/** Down the first column, then down the second. */
const List = styled.ol`
  display: grid;
  grid-auto-flow: column;
  grid-template: repeat(3, auto) / repeat(2, minmax(0, 1fr));
  li {
    display: flex;
    align-items: center;
    gap: 10px;
    min-height: 42px;
    padding: 5px 14px;
    border-top: 1px solid var(--line-2);
  }
  li:nth-child(n + 4) {
    border-left: 1px solid var(--line-2);
  }
  li > span:nth-child(2) {
    min-width: 0;
  }
  small {
    display: block;
    color: var(--ink-2);
  }
  ${phone} {
    grid-auto-flow: row;
    grid-template: auto / minmax(0, 1fr);
    li:nth-child(n + 4) {
      border-left: 0;
    }
  }
`;
const Sign = styled.span<{ $isDone: boolean }>`
  flex: none;
  width: 20px;
  height: 12px;
  border-radius: 3px;
  border: 1.5px solid ${({ $isDone }) => ($isDone ? 'var(--moss)' : 'var(--joint)')};
  background: ${({ $isDone }) => ($isDone ? 'var(--moss)' : 'transparent')};
`;

interface StepsProps {
  readonly steps: SetupState['steps'];
  /** In the head, at its end. */
  readonly action?: ReactNode;
}

/** The first steps of an agency, each with what it is for and a way to it. */
export function SetupSteps({ steps, action }: StepsProps) {
  const done = steps.filter(({ isDone }) => isDone).length;
  const next = steps.find(({ isDone }) => !isDone)?.step;
  return (
    <Panel aria-label="First steps" $space="below">
      <PanelHead>
        <h2>First steps</h2>
        <Muted>{done === steps.length ? 'all done' : `${done} of ${steps.length} done`}</Muted>
        <Push />
        {action}
      </PanelHead>
      <List>
        {steps.map(({ step, isDone }) => (
          <li key={step}>
            <Sign $isDone={isDone} aria-hidden="true" />
            <span>
              {STEP_WORDS[step].name} {isDone ? <Muted>done</Muted> : null}
              <small>{STEP_WORDS[step].about}</small>
            </span>
            <Push />
            <ButtonLink
              kind={step === next ? 'primary' : 'quiet'}
              href={STEP_WORDS[step].to}
              aria-label={`${buttonWords(isDone)}: ${STEP_WORDS[step].name}`}
            >
              {buttonWords(isDone)}
            </ButtonLink>
          </li>
        ))}
      </List>
    </Panel>
  );
}

const buttonWords = (isDone: boolean): string => (isDone ? 'Change' : 'Start');
