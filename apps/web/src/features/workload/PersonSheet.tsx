import { Note, Quiet, Toned } from '../../ui/text.tsx';
import type { IsoDay } from '@crew/core';
import type { WorkloadRow, WorkloadTask } from '@crew/contract';
import { useState } from 'react';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { useEase } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { ErrorNote, Loading } from '../../ui/layout.tsx';
import { HueMark, PersonMark } from '../../ui/marks.tsx';
import { Sheet, SheetPart } from '../../ui/Sheet.tsx';
import { count, dayWords, hourWords, spanWords } from '../../words/format.ts';
import { EaseList } from './EaseList.tsx';
import { toggleChoice } from './ease-words.ts';
import { pathOf } from './path-of.ts';
import type { Trial } from './use-shift.ts';

const Hours = styled.p`
  margin: 5px 0 12px;
`;

const Title = styled.h2`
  display: flex;
  align-items: center;
  gap: 9px;
  font-size: 17px;
`;
const Item = styled.li`
  position: relative;
  display: flex;
  gap: 9px;
  padding: 8px 0;
  border-top: 1px solid var(--line-2);
  small {
    display: block;
    color: var(--ink-2);
    font-size: 12px;
  }
  > span:last-child {
    margin-left: auto;
    white-space: nowrap;
  }
  a {
    text-decoration: none;
    font-weight: 600;
  }
  a::after {
    content: '';
    position: absolute;
    inset: 0;
  }
`;

interface PersonSheetProps {
  readonly row: WorkloadRow;
  readonly window: { readonly from: IsoDay; readonly to: IsoDay };
  readonly today: IsoDay;
  readonly chosen: ReadonlySet<string>;
  readonly trial: Trial;
  readonly onChoose: (chosen: ReadonlySet<string>) => void;
  readonly onClose: () => void;
}

/** What could ease somebody's load, and the tasks behind their bars. */
export function PersonSheet({ row, window, today, chosen, trial, onChoose, onClose }: PersonSheetProps) {
  const { data: ease, error } = useEase(row.person.id, window);
  const [isAllShown, setAllShown] = useState(false);
  const first = row.person.name.split(' ')[0];
  const isOver = ease !== undefined && ease.person.id === row.person.id && ease.over > 0;
  const tasks = isAllShown ? row.tasks : row.tasks.slice(0, 8);
  return (
    <Sheet label={row.person.name} line={row.roles.join(', ')} onClose={onClose}>
      <Title>
        <PersonMark person={row.person} /> {isOver ? `Ease ${first}’s load` : row.person.name}
      </Title>
      {error && ease === undefined ? (
        <ErrorNote error={error} />
      ) : ease === undefined || ease.person.id !== row.person.id ? (
        <Loading rows={3} />
      ) : isOver ? (
        <>
          <Hours>
            {hourWords(ease.over)} over across {count(ease.overDays, 'day')}. Nothing below is saved until you apply it.
          </Hours>
          <EaseList
            ease={ease}
            chosen={chosen}
            trial={trial}
            today={today}
            onToggle={(id) => onChoose(toggleChoice(ease.proposals, chosen, id))}
            onApplied={() => onChoose(new Set())}
          />
        </>
      ) : (
        <Note>Not over capacity in these weeks.</Note>
      )}
      <SheetPart>
        <h3>Tasks behind {row.tasks.length}</h3>
        <ul>
          {row.tasks.length === 0 ? <Quiet as="li">No task is planned here.</Quiet> : null}
          {tasks.map((task) => (
            <TaskBehind key={task.id} task={task} today={today} />
          ))}
        </ul>
        {tasks.length === row.tasks.length ? null : (
          <Button kind="quiet" onPress={() => setAllShown(true)}>
            Show all {row.tasks.length}
          </Button>
        )}
      </SheetPart>
    </Sheet>
  );
}

/** A task as a way to its plan: what is left of it, and when. */
export function TaskBehind({ task, today }: { readonly task: WorkloadTask; readonly today: IsoDay }) {
  const notes = [
    ...(task.hasEstimate ? [] : ['no estimate']),
    ...(task.likelihood === null ? [] : [`proposal, ${task.likelihood} % likely`]),
    ...(task.isComing ? ['not created yet'] : []),
    ...(task.assigneeIds.length > 1 ? [`shared by ${task.assigneeIds.length}`] : []),
  ];
  return (
    <Item>
      <HueMark $hue={task.engagement.hue} />
      <div>
        <Link href={pathOf(task)}>{task.title}</Link>
        <small>
          {task.engagement.name} ·{' '}
          <Toned $tone={task.due < today ? 'bad' : null}>
            {task.due < today ? `was due ${dayWords(task.due, today)}` : spanWords(task.start, task.due, today)}
          </Toned>
          {notes.length === 0 ? '' : ` · ${notes.join(', ')}`}
        </small>
      </div>
      <span>{hourWords(task.minutes)}</span>
    </Item>
  );
}
