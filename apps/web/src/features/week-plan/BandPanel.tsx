import { Toned } from '../../ui/text.tsx';
import type { IsoDay } from '@crew/core';
import type { WeekPlan } from '@crew/contract';
import { useState } from 'react';
import {
  Button as AriaButton,
  GridLayout,
  GridList,
  GridListItem,
  Menu,
  MenuTrigger,
  Size,
  Virtualizer,
  type Key,
} from 'react-aria-components';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { ChooseBox } from '../../ui/ChooseBox.tsx';
import { PopoverPanel } from '../../ui/Field.tsx';
import { MenuChoice } from '../../ui/MenuChoice.tsx';
import { Meter, Panel, Push, Fixed, Muted } from '../../ui/layout.tsx';
import { HueMark, PersonMark } from '../../ui/marks.tsx';
import { useListDrag } from '../../ui/use-list-drag.ts';
import { count, effortWords, hourWords, shortDay } from '../../words/format.ts';
import { WhoEditor, type OnEdit } from '../task/editors.tsx';
import { BAND_WORDS, minutesOf, weekOfBand, type Band, type PlannedTask } from './bands.ts';

const Shrinking = styled.span`
  min-width: 0;
`;

const Head = styled.header`
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 4px 12px;
  padding: 10px 14px 8px;
  h2 {
    font-size: 15px;
  }
  small {
    color: var(--ink-2);
    font-size: 12.5px;
  }
`;
const Tickets = styled(GridList)`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(205px, 1fr));
  gap: 7px;
  min-height: 52px;
  padding: 2px 14px 12px;
  outline: none;
  border-radius: 0 0 8px 8px;
  &[data-drop-target] {
    background: var(--petrol-soft);
    box-shadow: inset 0 0 0 2px var(--petrol);
  }
` as typeof GridList;
/** Scrolls by itself, so that the next band stays in reach. */
const ManyTickets = styled(Tickets)`
  display: block;
  height: 400px;
  margin: 0 7px 10px;
  padding: 0;
  overflow: auto;
` as typeof GridList;
const Ticket = styled(GridListItem)`
  display: grid;
  grid-template-columns: 12px minmax(0, 1fr) auto 24px;
  align-items: center;
  gap: 0 6px;
  padding: 4px 5px 5px 3px;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: var(--panel);
  cursor: pointer;
  outline: none;
  /* Nothing that tells two cards apart is cut off: a long title or note takes another line. */
  span > b,
  span > small {
    display: block;
    overflow-wrap: anywhere;
  }
  b {
    font-weight: 600;
    font-size: 13px;
  }
  small {
    font-size: 11.5px;
    color: var(--ink-2);
  }
  &[data-selected] {
    border-color: var(--petrol);
    background: var(--petrol-soft);
  }
  &[data-focus-visible] {
    outline: 2px solid var(--petrol);
  }
  &[data-dragging] {
    opacity: 0.4;
  }
`;
/** The menu of a card, and below it the box that chooses the card with others. */
const Edge = styled.div`
  display: grid;
  justify-items: center;
`;
const Grip = styled(AriaButton)`
  display: flex;
  align-self: stretch;
  justify-content: center;
  min-width: 12px;
  padding: 1px 3px;
  border: 0;
  background: transparent;
  cursor: grab;
`;
const Plain = styled(AriaButton)`
  min-width: 24px;
  min-height: 24px;
  padding: 0;
  border: 0;
  border-radius: 4px;
  background: transparent;
  color: var(--ink-2);
  font-size: 12px;
  cursor: pointer;
  &[data-hovered],
  &[data-focus-visible] {
    background: var(--petrol-soft);
  }
`;

interface BandProps {
  readonly band: Band;
  readonly plan: WeekPlan;
  readonly tasks: readonly PlannedTask[];
  readonly today: IsoDay;
  /** Hours the team has in the week of this band; null where it stands for none. */
  readonly capacity: number | null;
  readonly onPlace: (taskIds: readonly string[], week: IsoDay | null) => void;
  readonly onCarry: (() => void) | null;
  readonly onEdit: (task: PlannedTask) => OnEdit;
  readonly onOpen: (task: PlannedTask) => void;
}

/** A band of more tickets than these draws only those that are seen. */
const DRAWN_WHOLE = 60;
const TICKET_SIZES = { minItemSize: new Size(205, 56), maxItemSize: new Size(330, 56), minSpace: new Size(7, 7) };

/** A band across the page: what it holds in tasks and hours, its tickets flowing along it; dropped here a task gets the band's week. */
export function BandPanel(props: BandProps) {
  const { band, plan, tasks, today, capacity, onCarry } = props;
  const minutes = minutesOf(tasks);
  return (
    <Panel $space="below" as="section" aria-label={BAND_WORDS[band]}>
      <Head>
        <Toned as="h2" $tone={band === 'left' ? 'waiting' : null}>
          {BAND_WORDS[band]}
        </Toned>
        <small>
          {count(tasks.length, 'task')} · {hourWords(minutes)}
          {capacity === null ? '' : ` of ${hourWords(capacity)} available`}
          {band === 'nobody' || band === 'unplaced'
            ? ` · what starts by ${shortDay(plan.until, today)}, or a week later if nothing blocks it`
            : ''}
        </small>
        {capacity === null ? null : (
          <Fixed as="span" $width={130}>
            <Meter $part={capacity === 0 ? 0 : (minutes * 100) / capacity} $isOver={minutes > capacity} />
          </Fixed>
        )}
        {capacity !== null && minutes > capacity ? (
          <Toned as="small" $tone="bad">
            {hourWords(minutes - capacity)} more than available
          </Toned>
        ) : null}
        <Push />
        {onCarry === null || tasks.length === 0 ? null : <Button onPress={onCarry}>Carry all into this week</Button>}
      </Head>
      {tasks.length > DRAWN_WHOLE ? (
        <Virtualizer layout={GridLayout} layoutOptions={TICKET_SIZES}>
          <TicketList {...props} List={ManyTickets} />
        </Virtualizer>
      ) : (
        <TicketList {...props} List={Tickets} />
      )}
    </Panel>
  );
}

/** The tickets of a band, in a list that draws all of them or only those that are seen. */
function TicketList({ List, band, plan, tasks, today, onPlace, onEdit, onOpen }: BandProps & { readonly List: typeof Tickets }) {
  const canTake = band !== 'left' && band !== 'nobody';
  const hooks = useListDrag({
    kind: 'week-plan-task',
    items: tasks.map(({ id, title }) => ({ id, title })),
    ...(canTake
      ? {
          onDrop: (dropped) =>
            onPlace(
              dropped.map((task) => task.id),
              weekOfBand(band, plan),
            ),
        }
      : {}),
  });
  const [chosen, setChosen] = useState<ReadonlySet<Key>>(new Set());
  /** Placed by its menu, one that is chosen takes the other chosen ones along. */
  const placeFrom: BandProps['onPlace'] = ([taskId], week) => {
    const ids = tasks.map(({ id }) => id).filter((id) => id === taskId || (chosen.has(taskId ?? '') && chosen.has(id)));
    setChosen(new Set());
    onPlace(ids, week);
  };
  return (
    <List
      aria-label={BAND_WORDS[band]}
      layout="grid"
      keyboardNavigationBehavior="tab"
      selectionMode="multiple"
      selectionBehavior="replace"
      selectedKeys={chosen}
      onSelectionChange={(keys) => setChosen(keys === 'all' ? new Set(tasks.map(({ id }) => id)) : keys)}
      data-choosing={chosen.size > 0 || undefined}
      items={tasks}
      dependencies={[tasks, plan, chosen]}
      dragAndDropHooks={hooks}
      onAction={(key) => {
        const task = tasks.find((each) => each.id === key);
        if (task !== undefined) onOpen(task);
      }}
      renderEmptyState={() => <Muted as="small">{EMPTY[band]}</Muted>}
    >
      {(task) => <WeekPlanTicket task={task} band={band} plan={plan} today={today} onPlace={placeFrom} onEdit={onEdit(task)} />}
    </List>
  );
}

const EMPTY: Readonly<Record<Band, string>> = {
  left: 'Nothing carried over from earlier weeks.',
  nobody: 'All upcoming work is assigned.',
  unplaced: 'All upcoming work has a week.',
  this: 'Drag work here that is to be done this week.',
  next: 'Drag work here that can wait until next week.',
};

interface TicketProps {
  readonly task: PlannedTask;
  readonly band: Band;
  readonly plan: WeekPlan;
  readonly today: IsoDay;
  readonly onPlace: BandProps['onPlace'];
  readonly onEdit: OnEdit;
}

function WeekPlanTicket({ task, band, plan, today, onPlace, onEdit }: TicketProps) {
  const notes = [`due ${shortDay(task.due, today)}`, ...(task.isReady ? [] : ['not ready'])];
  return (
    <Ticket id={task.id} textValue={`${task.title}, ${task.engagement.name}`}>
      <Grip slot="drag" aria-label={`Drag ${task.title}`}>
        <HueMark $hue={task.engagement.hue} />
      </Grip>
      <Shrinking>
        <b>{task.title}</b>
        <small>{task.engagement.name}</small>
        <small>
          {effortWords(task.minutes, task.hasEstimate)} · <Toned $tone={task.due < today ? 'bad' : null}>{notes.join(' · ')}</Toned>
          {task.carried === 0 ? null : <Toned $tone="waiting"> · carried {task.carried} ×</Toned>}
        </small>
      </Shrinking>
      <WhoEditor task={task} onEdit={onEdit}>
        <Plain aria-label={`Who does ${task.title}: ${task.assignees.map((person) => person.name).join(', ') || 'unassigned'}`}>
          {task.assignees.length === 0
            ? 'assign'
            : task.assignees.slice(0, 2).map((person) => <PersonMark key={person.id} person={person} />)}
        </Plain>
      </WhoEditor>
      <Edge>
        <WeekMenu task={task} band={band} plan={plan} onPlace={onPlace} />
        <ChooseBox title={task.title} />
      </Edge>
    </Ticket>
  );
}

function WeekMenu({ task, band, plan, onPlace }: Pick<TicketProps, 'task' | 'band' | 'plan' | 'onPlace'>) {
  return (
    <MenuTrigger>
      <Plain aria-label={`Place ${task.title}`}>
        <span aria-hidden="true">⋯</span>
      </Plain>
      <PopoverPanel placement="bottom end">
        <Menu aria-label={`Place ${task.title}`} onAction={(key) => onPlace([task.id], weekOfBand(key as Band, plan))}>
          {(['this', 'next', 'unplaced'] as const)
            .filter((other) => other !== band)
            .map((other) => (
              <MenuChoice key={other} id={other}>
                {other === 'unplaced' ? 'No week yet' : BAND_WORDS[other]}
              </MenuChoice>
            ))}
        </Menu>
      </PopoverPanel>
    </MenuTrigger>
  );
}
