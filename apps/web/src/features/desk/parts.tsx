import type { DeskTask, HandoffLine } from '@crew/contract';
import { Fragment, type ReactNode } from 'react';
import { useWho } from '../../session/session.tsx';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import { Baton } from '../../ui/Baton.tsx';
import { ButtonLink } from '../../ui/Button.tsx';
import { Panel, PanelHead, Push, Muted, Inline } from '../../ui/layout.tsx';
import { HueMark, TaskGlyph } from '../../ui/marks.tsx';
import { agoWords } from '../../words/format.ts';
import { Clipped } from '../../ui/text.tsx';

/** The lines of a list in a panel of the desk. */
export const Lines = styled.div`
  padding: 0 13px 8px;
`;

/** Said where such a list is empty. */
export const Nothing = styled.p`
  color: var(--ink-2);
  font-size: 12.5px;
  padding-bottom: 4px;
`;

const Heading = styled.h3`
  padding: 7px 0 3px;
  font-size: 12px;
  color: var(--ink-2);
`;

const RowButton = styled(AriaButton)<{ $isBelow: boolean }>`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 9px;
  width: 100%;
  min-height: 29px;
  padding: 4px 0;
  border: 0;
  border-top: 1px solid var(--line-2);
  background: transparent;
  text-align: left;
  cursor: pointer;
  > span:nth-child(2) {
    flex: 1 1 150px;
    min-width: 0;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  small {
    display: block;
    font-size: 12px;
    color: var(--ink-2);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  /* Beside the title while both fit, else below it, so that neither is cut off. */
  > small {
    flex: 0 1 auto;
    max-width: 100%;
    margin-left: auto;
    /* Under the title, behind mark and glyph. */
    ${({ $isBelow }) => ($isBelow ? 'flex: 1 1 100%; margin: 0; padding-left: 42px; white-space: normal;' : '')}
  }
  &[data-hovered] {
    background: var(--sunk);
  }
`;

interface ListProps<Line extends DeskTask> {
  readonly title: string;
  readonly tasks: readonly Line[];
  readonly onOpen: (taskId: string) => void;
  readonly detail: (task: Line) => ReactNode;
  readonly empty?: string;
  readonly action?: ReactNode;
  /** The detail is a sentence: it gets a line of its own. */
  readonly isSentence?: boolean;
  /** How many there are, when not all are shown. */
  readonly count?: number;
  /** What a task belongs to; shown once for tasks that follow each other. */
  readonly headingOf?: (task: Line) => string;
}

/** One group of tasks with its own empty state. */
export function DeskList<Line extends DeskTask>(props: ListProps<Line>) {
  const { title, tasks, onOpen, detail, empty, action, isSentence = false, count = tasks.length, headingOf } = props;
  const headings = tasks.map((task) => headingOf?.(task));
  return (
    <Panel as="section" aria-label={title}>
      <PanelHead $isPlain>
        <h2>{title}</h2>
        <Muted>{count}</Muted>
        <Push />
        {action}
      </PanelHead>
      <Lines>
        {tasks.length === 0 ? <Nothing>{empty}</Nothing> : null}
        {tasks.map((task, index) => (
          <Fragment key={task.id}>
            {headings[index] === undefined || headings[index] === headings[index - 1] ? null : <Heading>{headings[index]}</Heading>}
            <RowButton $isBelow={isSentence} onPress={() => onOpen(task.id)}>
              <HueMark $hue={task.engagement.client.hue} />
              <Inline as="span" $gap={9} $isOneLine>
                <TaskGlyph status={task.status} />
                <Clipped title={`${task.title}, ${task.engagement.name}`}>{task.title}</Clipped>
              </Inline>
              <small>{detail(task)}</small>
            </RowButton>
          </Fragment>
        ))}
      </Lines>
    </Panel>
  );
}

const HandoffRow = styled.li`
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 6px 11px;
  padding: 9px 14px;
  border-top: 1px solid var(--line-2);
  &:first-child {
    border-top: 0;
  }
  small {
    display: block;
    color: var(--ink-2);
    font-size: 12px;
  }
`;

/** Whose turn it is: handoffs to pick up, questions to answer, what a rule says can be handed off. */
export function DeskHandoffs({ lines, personId }: { readonly lines: readonly HandoffLine[]; readonly personId: string }) {
  const { clockAheadMs } = useWho();
  return (
    <Panel $space="below" aria-label="It is your turn">
      <ul>
        {lines.map((line) => {
          const isToPickUp = line.state === 'handed-off' && [line.receiver?.id, line.standIn?.id].includes(personId);
          const isReady = line.state === 'getting-ready';
          const since = line.since === null ? '' : agoWords(line.since, clockAheadMs);
          return (
            <HandoffRow key={line.id}>
              <HueMark $hue={line.engagement.client.hue} $height={32} />
              <Baton state={line.baton} size={20} />
              <div>
                <strong>
                  {isToPickUp
                    ? `Your turn: ${line.to?.name ?? 'closing'}`
                    : isReady
                      ? `${line.from.name} can be handed off`
                      : `A question about ${line.from.name}`}
                </strong>
                <small>
                  {line.engagement.name} ·{' '}
                  {isToPickUp
                    ? `${line.giver?.name ?? 'somebody'} handed ${line.from.name} off ${since}`
                    : isReady
                      ? 'its gate is clear'
                      : `“${line.question ?? ''}” · ${since}`}
                </small>
              </div>
              <Push />
              <ButtonLink kind="primary" href={`/handoffs?handoff=${line.id}`}>
                {isToPickUp ? 'Read and pick up' : isReady ? 'Hand off' : 'Answer'}
              </ButtonLink>
            </HandoffRow>
          );
        })}
      </ul>
    </Panel>
  );
}
