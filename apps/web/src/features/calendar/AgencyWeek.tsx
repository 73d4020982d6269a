import { EditCalendar, type AgencyCalendar } from '@crew/contract';
import { call } from '../../api/client.ts';
import { Button } from '../../ui/Button.tsx';
import { Muted, Panel, PanelHead, PanelBody, Inline } from '../../ui/layout.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { WEEKDAYS, weekAsTyped, weekTyped } from '../../ui/form/week.ts';
import { WeekInput } from '../../ui/form/WeekInput.tsx';
import { Trouble } from '../../ui/text.tsx';
import { backBy, performOrThrow } from '../../session/perform.ts';
import { hours, hourWords } from '../../words/format.ts';

/** On which days the agency works, and how long a day is. */
export function AgencyWeek({ calendar, mayEdit }: { readonly calendar: AgencyCalendar; readonly mayEdit: boolean }) {
  const { week } = calendar;
  return (
    <Panel as="section" aria-labelledby="agency-week">
      <PanelHead>
        <h2 id="agency-week">The agency’s week</h2>
      </PanelHead>
      <PanelBody>
        {mayEdit ? (
          <WeekForm week={week} />
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
function WeekForm({ week }: { readonly week: readonly number[] }) {
  const saved = weekAsTyped(week);
  const typed: { week: readonly string[] | null } = { week: null };
  const send = (input: object): Promise<AgencyCalendar> => call('PATCH', '/calendar', input);
  const form = useInputForm({
    rules: EditCalendar,
    typed,
    input: (now) => ({ week: weekTyped(now.week ?? saved) }),
    send: async (input) => {
      await performOrThrow({
        send: () => send(input),
        said: 'The week is changed. What is open is planned anew.',
        undo: () => backBy(() => send({ week })),
      });
      form.reset();
    },
  });
  const field = form.bind('week');
  return (
    <form onSubmit={form.submit} noValidate>
      <WeekInput value={field.value ?? saved} onChange={field.onChange} error={field.error} />
      <Trouble words={form.trouble} />
      {field.value !== null ? (
        <Inline as="span">
          <Button kind="primary" type="submit">
            Change the week
          </Button>
          <Button onPress={() => form.reset()}>Cancel</Button>
        </Inline>
      ) : (
        <Muted>Nobody is planned on a day that is left empty.</Muted>
      )}
    </form>
  );
}
