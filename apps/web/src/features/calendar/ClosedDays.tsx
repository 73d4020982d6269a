import type { IsoDay } from '@crew/core';
import { AddClosedDays, type AgencyCalendar, type CalendarChanged, type ClosedDayInput } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { Button } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { Field } from '../../ui/Field.tsx';
import { Panel, PanelHead, Push, Inline } from '../../ui/layout.tsx';
import { performOrThrow } from '../../session/perform.ts';
import { NO_DAY_TYPED, dayTyped, lastDayTyped, Unreadable } from '../../ui/form/typed.ts';
import { FormButton } from '../../ui/form/SmallForm.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { Note, Trouble } from '../../ui/text.tsx';
import { count, spanWords } from '../../words/format.ts';
import { closedByYear, daysFrom, type ClosedRun } from './away.ts';
import { CalendarEffectNote } from './CalendarEffectNote.tsx';
import { FromFile } from './FromFile.tsx';
import { yearToReview } from './holidays.ts';
import { useAct } from './use-act.ts';

const Years = styled.div`
  max-height: 320px;
  overflow: auto;
  padding: 4px 14px 8px;
  h3 {
    position: sticky;
    top: 0;
    padding: 6px 0 3px;
    background: var(--panel);
    color: var(--ink-2);
  }
  li {
    display: grid;
    grid-template-columns: 96px minmax(0, 1fr) auto;
    gap: 10px;
    align-items: center;
    min-height: 29px;
  }
  li[data-over] {
    color: var(--ink-2);
  }
`;
const Form = styled.form`
  display: grid;
  grid-template-columns: 118px 118px minmax(0, 1fr);
  gap: 8px;
  align-items: start;
  padding: 10px 14px 12px;
  border-top: 1px solid var(--line-2);
  > .whole {
    grid-column: 1 / -1;
  }
`;

interface ClosedDaysProps {
  readonly calendar: AgencyCalendar;
  readonly today: IsoDay;
  readonly mayEdit: boolean;
  readonly onHolidays: () => void;
}

/** The days on which nobody works: by hand or from a file. */
export function ClosedDays({ calendar, today, mayEdit, onHolidays }: ClosedDaysProps) {
  const [isPastShown, setPastShown] = useState(false);
  const past = calendar.closed.filter(({ day }) => day < today).length;
  const review = yearToReview(today, calendar.closed);
  const years = closedByYear(isPastShown ? calendar.closed : calendar.closed.filter(({ day }) => day >= today));
  return (
    <Panel as="section" aria-labelledby="closed-days">
      <PanelHead>
        <h2 id="closed-days">Closed days</h2>
        <Push />
        {past === 0 ? null : (
          <Button kind="quiet" onPress={() => setPastShown(!isPastShown)}>
            {isPastShown ? 'Upcoming only' : `Show ${past} past ${past === 1 ? 'day' : 'days'}`}
          </Button>
        )}
        {mayEdit ? <Button onPress={onHolidays}>Public holidays…</Button> : null}
      </PanelHead>
      {mayEdit && review !== null ? <Note $isPanel>No day of {review} is closed yet. Look at its public holidays in time.</Note> : null}
      {years.length === 0 ? (
        <Note $isPanel>No upcoming closed days. Start with the public holidays of your country.</Note>
      ) : (
        <Years tabIndex={0} role="group" aria-label="Closed days by year">
          {years.map(({ year, runs }) => (
            <div key={year}>
              <h3>{year}</h3>
              <ul>
                {runs.map((run) => (
                  <ClosedLine key={run.days[0]} run={run} today={today} mayEdit={mayEdit} />
                ))}
              </ul>
            </div>
          ))}
        </Years>
      )}
      {mayEdit ? <AddClosed today={today} /> : null}
    </Panel>
  );
}

function ClosedLine({ run, today, mayEdit }: { readonly run: ClosedRun; readonly today: IsoDay; readonly mayEdit: boolean }) {
  const { act, trouble, isBusy } = useAct();
  const [first, last] = [run.days[0] as IsoDay, run.days.at(-1) as IsoDay];
  const words = spanWords(first, last, first);
  const open = (): void =>
    void act({
      send: () => call<CalendarChanged>('DELETE', `/calendar/closed-days/${first}?to=${last}`),
      said: `${words} ${run.days.length === 1 ? 'is a working day' : 'are working days'} again.`,
      undo: ({ changeId }) => changeId,
    });
  return (
    <li data-over={last < today ? '' : undefined}>
      <span>{words}</span>
      <span title={run.days.length > 1 ? count(run.days.length, 'day') : undefined}>{trouble ?? run.name}</span>
      {mayEdit && last >= today ? (
        <FormButton
          button={
            <Button kind="quiet" isDisabled={isBusy} aria-label={`Remove ${words}, ${run.name}`}>
              Remove…
            </Button>
          }
          label={`Remove ${words}`}
          width={320}
        >
          {(close) => (
            <>
              <CalendarEffectNote change={{ open: [...run.days] }} today={today} />
              <Inline as="span">
                <Button
                  kind="primary"
                  onPress={() => {
                    close();
                    open();
                  }}
                >
                  Apply
                </Button>
                <Button kind="quiet" onPress={close}>
                  Cancel
                </Button>
              </Inline>
            </>
          )}
        </FormButton>
      ) : (
        <span />
      )}
    </li>
  );
}

const closedWords = (days: number): string => `${count(days, 'day')} closed. Open work is rescheduled.`;

/** The days that were typed as input of the contract. */
function daysTyped({
  from,
  to,
  name,
}: {
  readonly from: IsoDay | '';
  readonly to: IsoDay | '';
  readonly name: string;
}): ClosedDayInput[] | Unreadable {
  const [first, last] = [dayTyped(from), lastDayTyped(to, from)];
  if (first instanceof Unreadable) return first;
  return last instanceof Unreadable ? last : daysFrom(first, last).map((day) => ({ day, name }));
}

function AddClosed({ today }: { readonly today: IsoDay }) {
  const form = useInputForm({
    rules: AddClosedDays,
    typed: { from: NO_DAY_TYPED, to: NO_DAY_TYPED, name: '' },
    input: (typed) => ({ days: daysTyped(typed) }),
    send: async (input) => {
      await performOrThrow({
        send: () => call<CalendarChanged>('POST', '/calendar/closed-days', input),
        said: closedWords(input.days.length),
        undo: ({ changeId }) => changeId,
      });
      form.reset();
    },
  });
  const days = daysTyped(form.values);
  return (
    <Form aria-label="Add closed days" onSubmit={form.submit} noValidate>
      <DayField {...form.bind('from')} label="Closed from" today={today} isTight />
      <DayField {...form.bind('to')} label="to (optional)" today={today} isTight placeholder="same day" />
      <Field {...form.bind('name')} label="Reason" isTight placeholder="e.g. Founders’ day" />
      <Inline className="whole">
        <Button type="submit" kind="primary">
          Add {days instanceof Unreadable ? 'closed days' : count(days.length, 'closed day')}
        </Button>
        <FromFile path="/calendar/import" label="Import closed days…" today={today} said={(file) => closedWords(file.days.length)} />
        <Trouble words={form.trouble} />
      </Inline>
      {days instanceof Unreadable ? null : (
        <div className="whole">
          <CalendarEffectNote change={{ close: days.map(({ day }) => day) }} today={today} />
        </div>
      )}
    </Form>
  );
}
