import type { IsoDay } from '@crew/core';
import type { ClientHue } from '@crew/contract';
import type { ReactNode } from 'react';
import { Button as AriaButton, GridListItem, Menu, MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { PopoverPanel } from '../../ui/Field.tsx';
import { MenuChoice } from '../../ui/MenuChoice.tsx';
import { HueMark } from '../../ui/marks.tsx';
import { dayWords } from '../../words/format.ts';
import type { Arranged, Arranging } from './use-arrange.ts';

const Row = styled(GridListItem)`
  display: grid;
  grid-template-columns: 10px minmax(0, 1fr) auto 24px;
  align-items: center;
  gap: 0 7px;
  min-height: 30px;
  padding: 4px 0;
  border-top: 1px solid var(--line-2);
  outline: none;
  cursor: pointer;
  small {
    display: block;
    font-size: 12px;
    color: var(--ink-2);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  &[data-hovered] {
    background: var(--sunk);
  }
  &[data-focus-visible] {
    outline: 2px solid var(--petrol);
    outline-offset: -2px;
    border-radius: 4px;
  }
  &[data-dragging] {
    opacity: 0.4;
  }
  @container (max-width: 190px) {
    grid-template-columns: 10px minmax(0, 1fr) 24px;
    .amount {
      grid-area: 2 / 2;
    }
    .more {
      grid-area: 1 / 3;
    }
  }
`;
const Grip = styled(AriaButton)`
  display: flex;
  align-self: stretch;
  align-items: stretch;
  justify-content: center;
  min-width: 10px;
  padding: 1px 3px;
  border: 0;
  background: transparent;
  cursor: grab;
`;
const Words = styled.span`
  min-width: 0;
  > span {
    display: block;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  /* In a narrow day a title has two lines, with the hours below. */
  @container (max-width: 190px) {
    > span {
      display: -webkit-box;
      -webkit-box-orient: vertical;
      -webkit-line-clamp: 2;
      white-space: normal;
    }
  }
`;
const More = styled(AriaButton)`
  width: 24px;
  height: 24px;
  border: 0;
  border-radius: 4px;
  background: transparent;
  color: var(--ink-3);
  cursor: pointer;
  &[data-hovered],
  &[data-focus-visible] {
    background: var(--petrol-soft);
    color: var(--ink);
  }
`;

/** What arranging needs to know: the days that can still be chosen, and how. */
export interface ArrangeContext {
  readonly days: readonly IsoDay[];
  readonly today: IsoDay;
  readonly arranging: Arranging;
  /** Moves the task's own dates to begin on a day. */
  readonly onMoveDates: (taskId: string, day: IsoDay) => void;
}

interface TicketProps {
  readonly task: Arranged;
  readonly hue: ClientHue;
  readonly title: ReactNode;
  readonly note: ReactNode;
  /** The note in full, for where it is cut. */
  readonly noteTitle?: string;
  readonly amount: ReactNode;
  readonly context: ArrangeContext;
}

/** A task as a line that can be dragged to a day; its menu does the same. */
export function Ticket({ task, hue, title, note, noteTitle, amount, context }: TicketProps) {
  return (
    <Row id={task.id} textValue={task.title}>
      <Grip slot="drag" aria-label={`Drag ${task.title}`}>
        <HueMark $hue={hue} />
      </Grip>
      <Words>
        <span title={task.title}>{title}</span>
        {note === null ? null : <small title={noteTitle}>{note}</small>}
      </Words>
      <small className="amount">{amount}</small>
      <ArrangeMenu task={task} context={context} />
    </Row>
  );
}

function ArrangeMenu({ task, context }: { readonly task: Arranged; readonly context: ArrangeContext }) {
  const { days, today, arranging, onMoveDates } = context;
  const choose = (key: string): void => {
    if (key === 'off') void arranging.removeFromDay(task);
    else if (key === 'dates') onMoveDates(task.id, task.placed?.day ?? today);
    else void arranging.place(task, key as IsoDay);
  };
  return (
    <MenuTrigger>
      <More className="more" aria-label={`Arrange ${task.title}`}>
        <span aria-hidden="true">⋯</span>
      </More>
      <PopoverPanel placement="bottom end">
        <Menu aria-label={`Arrange ${task.title}`} onAction={(key) => choose(String(key))}>
          {days
            .filter((day) => day !== task.placed?.day)
            .map((day) => (
              <MenuChoice key={day} id={day}>
                {day === today ? 'Do it today' : `Do it on ${dayWords(day, today)}`}
              </MenuChoice>
            ))}
          {task.placed === null ? null : (
            <>
              <MenuChoice id="off">Follow the plan</MenuChoice>
              <MenuChoice id="dates">Also reschedule it to start then</MenuChoice>
            </>
          )}
        </Menu>
      </PopoverPanel>
    </MenuTrigger>
  );
}
