import type { WorkloadRow } from '@crew/contract';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { HueMark, PersonMark } from '../../ui/marks.tsx';
import { Sheet } from '../../ui/Sheet.tsx';
import { count, dayWords, hourWords, spanWords } from '../../words/format.ts';

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

/** The tasks behind somebody's bars. */
export function PersonSheet({ row, today, onClose }: { readonly row: WorkloadRow; readonly today: string; readonly onClose: () => void }) {
  const over = row.days.filter((day) => day.over > 0);
  const minutes = over.reduce((sum, day) => sum + day.over, 0);
  return (
    <Sheet label={row.person.name} line={row.roles.join(', ')} onClose={onClose}>
      <Title>
        <PersonMark person={row.person} /> {row.person.name}
      </Title>
      <p style={{ color: over.length > 0 ? 'var(--brick)' : 'var(--ink-2)', margin: '5px 0 12px' }}>
        {over.length === 0
          ? 'Nothing is over in these weeks.'
          : `${hourWords(minutes)} over on ${count(over.length, 'day')}, first ${dayWords(over[0]?.date ?? '', today)}.`}
      </p>
      <ul>
        {row.tasks.length === 0 ? <li style={{ color: 'var(--ink-2)' }}>No task is planned here.</li> : null}
        {row.tasks.map((task) => (
          <Item key={task.id}>
            <HueMark $hue={task.engagement.hue} />
            <div>
              <Link href={`/engagements/${task.engagement.id}?task=${task.id}`}>{task.title}</Link>
              <small>
                {task.engagement.name} ·{' '}
                <span style={task.due < today ? { color: 'var(--brick)' } : undefined}>
                  {task.due < today ? `was due ${dayWords(task.due, today)}` : spanWords(task.start, task.due, today)}
                </span>
              </small>
            </div>
            <span>{hourWords(task.minutes)}</span>
          </Item>
        ))}
      </ul>
    </Sheet>
  );
}
