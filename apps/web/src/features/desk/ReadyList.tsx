import type { DeskTask } from '@crew/contract';
import { GridList } from 'react-aria-components';
import styled from 'styled-components';
import { Panel, PanelHead, Push, Muted, Inline } from '../../ui/layout.tsx';
import { TaskGlyph } from '../../ui/marks.tsx';
import { useListDrag } from '../../ui/use-list-drag.ts';
import { effortWords } from '../../words/format.ts';
import { Ticket, type ArrangeContext } from './Ticket.tsx';
import { Clipped } from '../../ui/text.tsx';
import { Lines, Nothing } from './parts.tsx';

const List = styled(GridList)`
  padding: 0 13px 8px;
  outline: none;
` as typeof GridList;

interface ReadyProps {
  readonly tasks: readonly DeskTask[];
  /** Ids of tasks that are on a day of this week already. */
  readonly placed: ReadonlySet<string>;
  readonly context: ArrangeContext;
  readonly onOpen: (taskId: string) => void;
}

/** Work that can be started; it is dragged into a day, or put there by its menu. */
export function ReadyList({ tasks, placed, context, onOpen }: ReadyProps) {
  const arranged = (task: DeskTask) => ({ id: task.id, title: task.title, placed: null });
  const hooks = useListDrag({ kind: 'desk-task', items: tasks.map(arranged) });
  return (
    <Panel as="section" aria-label="Ready to start">
      <PanelHead $isPlain>
        <h2>Ready to start</h2>
        <Muted>{tasks.length}</Muted>
        <Push />
        {tasks.length === 0 ? null : <Muted>drag into a day</Muted>}
      </PanelHead>
      {tasks.length === 0 ? (
        <Lines>
          <Nothing>None of your tasks can start right now.</Nothing>
        </Lines>
      ) : (
        <List
          aria-label="Ready to start"
          keyboardNavigationBehavior="tab"
          items={tasks}
          dependencies={[tasks, placed, context]}
          dragAndDropHooks={hooks}
          onAction={(key) => onOpen(String(key))}
        >
          {(task) => (
            <Ticket
              task={arranged(task)}
              hue={task.engagement.client.hue}
              title={
                <Inline as="span" $gap={9} $isOneLine>
                  <TaskGlyph status={task.status} />
                  <Clipped>{task.title}</Clipped>
                </Inline>
              }
              note={null}
              amount={`${placed.has(task.id) ? 'in the week · ' : ''}${effortWords(task.remainingMinutes, task.estimateMinutes !== null)}`}
              context={context}
            />
          )}
        </List>
      )}
    </Panel>
  );
}
