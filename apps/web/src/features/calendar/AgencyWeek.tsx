import type { IsoDay } from '@crew/core';
import { EditCalendar, type AgencyCalendar, type CalendarChanged } from '@crew/contract';
import { call } from '../../api/client.ts';
import { Button } from '../../ui/Button.tsx';
import { Muted, Panel, PanelHead, PanelBody, Inline } from '../../ui/layout.tsx';
import { Unreadable } from '../../ui/form/typed.ts';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { WEEKDAYS, weekAsTyped, weekTyped } from '../../ui/form/week.ts';
import { WeekInput } from '../../ui/form/WeekInput.tsx';
import { CalendarEffectNote } from './CalendarEffectNote.tsx';
import { Trouble } from '../../ui/text.tsx';
import { performOrThrow } from '../../session/perform.ts';
import { hours, hourWords } from '../../words/format.ts';

/** On which days the agency works, and how long a day is. */
export function AgencyWeek({
  calendar,
  today,
  mayEdit,
}: {
  readonly calendar: AgencyCalendar;
  readonly today: IsoDay;
  readonly mayEdit: boolean;
}) {
  const { week } = calendar;
  return (
    <Panel as="section" aria-labelledby="agency-week">
      <PanelHead>
        <h2 id="agency-week">Working week</h2>
      </PanelHead>
      <PanelBody>
        {mayEdit ? (
          <WeekForm week={week} today={today} />
        ) : (
          <p>
            {week.flatMap((minutes, day) => (minutes === 0 ? [] : [`${WEEKDAYS[day]} ${hours(minutes)}`])).join(', ')}:{' '}
            {hourWords(week.reduce((sum, minutes) => sum + minutes, 0))} a week
          </p>
        )}
      </PanelBody>
    </Panel>
  );
}

/** Follows the week that is saved, as others change it, until somebody types; then what is typed stays. */
function WeekForm({ week, today }: { readonly week: readonly number[]; readonly today: IsoDay }) {
  const saved = weekAsTyped(week);
  const typed: { week: readonly string[] | null } = { week: null };
  const send = (input: object): Promise<CalendarChanged> => call('PATCH', '/calendar', input);
  const form = useInputForm({
    rules: EditCalendar,
    typed,
    input: (now) => ({ week: weekTyped(now.week ?? saved) }),
    send: async (input) => {
      await performOrThrow({
        send: () => send(input),
        said: 'Working week changed. Open work is rescheduled.',
        undo: ({ changeId }) => changeId,
      });
      form.reset();
    },
  });
  const field = form.bind('week');
  const asked = weekTyped(field.value ?? saved);
  return (
    <form onSubmit={form.submit} noValidate>
      <WeekInput value={field.value ?? saved} onChange={field.onChange} error={field.error} />
      <Trouble words={form.trouble} />
      {asked instanceof Unreadable || field.value === null ? null : <CalendarEffectNote change={{ week: asked }} today={today} />}
      {field.value !== null ? (
        <Inline as="span">
          <Button kind="primary" type="submit">
            Save working week
          </Button>
          <Button onPress={() => form.reset()}>Cancel</Button>
        </Inline>
      ) : (
        <Muted>Leave a day empty if nobody works on it.</Muted>
      )}
    </form>
  );
}
