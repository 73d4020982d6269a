import type { IsoDay } from '@crew/core';
import {
  AddTimeOff as AddTimeOffInput,
  can,
  of,
  reachOf,
  type AgencyCalendar,
  type TaskInTimeOff,
  type TimeOffAdded,
  type TimeOffFile,
  type TimeOffLine,
  type TimeOffRemoved,
} from '@crew/contract';
import { useState } from 'react';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useCrew } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { Empty, Muted, Panel, PanelHead, Inline } from '../../ui/layout.tsx';
import { PersonMark } from '../../ui/marks.tsx';
import { phone } from '../../ui/tokens.ts';
import { NO_DAY_TYPED, dayTyped, lastDayTyped, minutesIfTyped } from '../../ui/form/typed.ts';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { Trouble } from '../../ui/text.tsx';
import { performOrThrow } from '../../session/perform.ts';
import { count, hourWords, spanWords } from '../../words/format.ts';
import { AwayStrip } from './AwayStrip.tsx';
import { FromFile } from './FromFile.tsx';
import { useAct } from './use-act.ts';

const OwnName = styled.p`
  padding-top: 24px;
`;

const Line = styled.li`
  display: grid;
  grid-template-columns: 30px 150px 130px minmax(0, 1fr) auto;
  gap: 10px;
  align-items: center;
  min-height: 34px;
  padding: 2px 14px;
  border-top: 1px solid var(--line-2);
  ${phone} {
    grid-template-columns: 30px minmax(0, 1fr) auto;
    gap: 0 10px;
    padding: 6px 14px;
    > :nth-child(3),
    > :nth-child(4) {
      grid-column: 2;
    }
    > :nth-child(5) {
      grid-column: 3;
      grid-row: 1;
    }
  }
`;
const Form = styled.form`
  display: grid;
  grid-template-columns: 170px 118px 118px 110px minmax(120px, 1fr);
  gap: 8px;
  align-items: start;
  padding: 10px 14px 12px;
  border-top: 1px solid var(--line);
  > .whole {
    grid-column: 1 / -1;
  }
  ${phone} {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
`;
const Asks = styled.div`
  margin: 0 14px 12px;
  padding: 10px 12px;
  border-radius: 7px;
  background: var(--amber-soft);
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 0 10px;
    padding: 2px 0;
  }
  a {
    color: var(--petrol);
    font-weight: 600;
  }
`;

/** Work that falls in time off just entered: somebody has to decide about each. */
interface Fallen {
  readonly name: string;
  readonly tasks: readonly TaskInTimeOff[];
}

/** Who is away: seen over the next weeks, entered for oneself, by leads for anybody. */
export function TimeOff({ calendar, today }: { readonly calendar: AgencyCalendar; readonly today: IsoDay }) {
  const me = useWho();
  const [fallen, setFallen] = useState<Fallen | null>(null);
  return (
    <Panel as="section" aria-labelledby="time-off">
      <PanelHead>
        <h2 id="time-off">Away</h2>
        <Muted>whole days are dark, parts of days light; closed days are grey</Muted>
      </PanelHead>
      {calendar.timeOff.length === 0 ? (
        <Empty title={reachOf(me, 'time-off.read') === 'own' ? 'You have no time off planned.' : 'Nobody is away.'}>
          <p>Time off reduces a person’s available hours, and you see which work falls on those days.</p>
        </Empty>
      ) : (
        <>
          <AwayStrip calendar={calendar} today={today} />
          <ul aria-label="Time off">
            {calendar.timeOff.map((line) => (
              <OffLine key={line.id} line={line} today={today} />
            ))}
          </ul>
        </>
      )}
      <AddTimeOff today={today} onAdded={setFallen} />
      {fallen === null || fallen.tasks.length === 0 ? null : <InTheWay fallen={fallen} today={today} onClose={() => setFallen(null)} />}
    </Panel>
  );
}

function OffLine({ line, today }: { readonly line: TimeOffLine; readonly today: IsoDay }) {
  const me = useWho();
  const { act, trouble, isBusy } = useAct();
  const { person, from, to, minutes, note } = line;
  const span = spanWords(from, to, today);
  const remove = (): void =>
    void act({
      send: () => call<TimeOffRemoved>('DELETE', `/time-off/${line.id}`),
      said: `${person.name} works ${span} again.`,
      undo: ({ changeId }) => changeId,
    });
  return (
    <Line>
      <PersonMark person={person} />
      <span>{person.name}</span>
      <span>{span}</span>
      <Muted>
        {trouble ?? [minutes === null ? 'whole days' : `${hourWords(minutes)} a day`, note].filter((word) => word !== '').join(' · ')}
      </Muted>
      {can(me, 'time-off.edit', of(person.id)) ? (
        <Button kind="quiet" isDisabled={isBusy} aria-label={`Remove ${person.name}’s time off, ${span}`} onPress={remove}>
          Remove
        </Button>
      ) : (
        <span />
      )}
    </Line>
  );
}

function AddTimeOff({ today, onAdded }: { readonly today: IsoDay; readonly onAdded: (fallen: Fallen) => void }) {
  const me = useWho();
  const { data: crew } = useCrew(reachOf(me, 'time-off.edit') === 'all');
  const typed = { personId: me.personId, from: NO_DAY_TYPED, to: NO_DAY_TYPED, minutes: '', note: '' };
  const form = useInputForm({
    rules: AddTimeOffInput,
    typed,
    input: ({ from, to, minutes, note }) => ({
      ...{ from: dayTyped(from), to: lastDayTyped(to, from) },
      ...{ minutes: minutesIfTyped(minutes), note },
    }),
    send: async (input, { personId }) => {
      const added = await performOrThrow({
        send: () => call<TimeOffAdded>('POST', `/crew/${personId}/time-off`, input),
        said,
        undo: ({ changeId }) => changeId,
      });
      onAdded({ name, tasks: added.tasks });
      form.reset({ ...typed, personId });
    },
  });
  const { personId } = form.values;
  const name = crew?.people.find((person) => person.id === personId)?.name ?? me.name;
  const said = ({ tasks }: TimeOffAdded): string =>
    tasks.length === 0 ? `${name} is away then. No open tasks fall on those days.` : `${name} is away then.`;
  return (
    <Form aria-label="Add time off" onSubmit={form.submit} noValidate>
      {reachOf(me, 'time-off.edit') === 'all' ? (
        <Choose
          {...form.bind('personId')}
          label="Who is away"
          isTight
          choices={crew?.people.map((person) => ({ id: person.id, name: person.name }))}
        />
      ) : (
        <OwnName>{me.name}</OwnName>
      )}
      <DayField {...form.bind('from')} label="From" today={today} isTight />
      <DayField {...form.bind('to')} label="To (optional)" today={today} isTight placeholder="same day" />
      <Field {...form.bind('minutes')} label="Hours a day" isTight placeholder="whole days" inputMode="decimal" />
      <Field {...form.bind('note')} label="Note" isTight placeholder="e.g. Parents’ evening" />
      <Inline className="whole">
        <Button type="submit" kind="primary">
          Add time off
        </Button>
        <FromFile
          key={personId}
          path={`/crew/${personId}/time-off/import`}
          label={personId === me.personId ? 'Import my time off…' : `Import time off of ${name}…`}
          today={today}
          said={said}
          onKept={({ tasks }: TimeOffFile) => onAdded({ name, tasks })}
        />
        <Trouble words={form.trouble} />
      </Inline>
    </Form>
  );
}

function InTheWay({ fallen, today, onClose }: { readonly fallen: Fallen; readonly today: IsoDay; readonly onClose: () => void }) {
  return (
    <Asks role="region" aria-label="Work on those days">
      <strong>
        {count(fallen.tasks.length, 'open task')} of {fallen.name} {fallen.tasks.length === 1 ? 'falls' : 'fall'} on these days. Reschedule
        or reassign each:
      </strong>
      <ul>
        {fallen.tasks.map((task) => (
          <li key={task.id}>
            <Link href={`/engagements/${task.engagement.id}?task=${task.id}`}>{task.title}</Link>
            <span>{spanWords(task.start, task.due, today)}</span>
            <Muted>{task.engagement.name}</Muted>
          </li>
        ))}
      </ul>
      <Button onPress={onClose}>Close</Button>
    </Asks>
  );
}
