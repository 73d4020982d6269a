import type { IsoDay } from '@crew/core';
import { backBy, perform } from '../../session/perform.ts';
import type { DeskUnlogged, TimeLogged } from '@crew/contract';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { Panel, PanelHead, Muted } from '../../ui/layout.tsx';
import { HueMark } from '../../ui/marks.tsx';
import { TextCell } from '../../ui/TextCell.tsx';
import { dayWords, hours, hourWords, parseHours } from '../../words/format.ts';
import { Lines, Nothing } from './parts.tsx';

const Row = styled.li`
  display: grid;
  grid-template-columns: 4px minmax(0, 1fr) 64px;
  gap: 9px;
  align-items: center;
  min-height: 30px;
  padding: 4px 0;
  border-top: 1px solid var(--line-2);
  button {
    min-width: 0;
    padding: 0;
    border: 0;
    background: transparent;
    text-align: left;
    cursor: pointer;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  small {
    display: block;
    color: var(--ink-2);
    font-size: 12px;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  input {
    margin: 0;
    border-color: var(--line);
    text-align: right;
  }
`;

interface UnloggedProps {
  readonly tasks: readonly DeskUnlogged[];
  readonly today: IsoDay;
  readonly isMine: boolean;
  readonly onOpen: (taskId: string) => void;
}

/** Done without time logged: the hours are entered here, on the day it was done. */
export function UnloggedList({ tasks, today, isMine, onOpen }: UnloggedProps) {
  const save = (task: DeskUnlogged, text: string): boolean => {
    const minutes = parseHours(text);
    if (minutes === null || minutes < 1 || minutes > 1440) return false;
    void perform({
      send: () => call<TimeLogged>('POST', `/tasks/${task.id}/time`, { day: task.doneOn, minutes }),
      said: `${hourWords(minutes)} logged on “${task.title}”.`,
      undo: ({ entry: { id, version } }) => backBy(() => call('POST', `/time/${id}/remove`, { version })),
    });
    return true;
  };
  return (
    <Panel as="section" aria-label="Done, no time logged">
      <PanelHead $isPlain>
        <h2>Done, no time logged</h2>
        <Muted>{tasks.length}</Muted>
      </PanelHead>
      <Lines as="ul">
        {tasks.length === 0 ? <Nothing as="li">All finished tasks have time logged.</Nothing> : null}
        {tasks.map((task) => (
          <Row key={task.id}>
            <HueMark $hue={task.engagement.client.hue} />
            <AriaButton onPress={() => onOpen(task.id)}>
              {task.title}
              <small>
                done {dayWords(task.doneOn, today)}
                {task.usualMinutes === null ? '' : ` · usually ${hourWords(task.usualMinutes)}`}
              </small>
            </AriaButton>
            {isMine ? (
              <TextCell
                label={`Hours ${task.title} took`}
                value=""
                placeholder={task.usualMinutes === null ? 'hours' : `${hours(task.usualMinutes)}?`}
                onSave={(text) => save(task, text)}
              />
            ) : (
              <span />
            )}
          </Row>
        ))}
      </Lines>
    </Panel>
  );
}
