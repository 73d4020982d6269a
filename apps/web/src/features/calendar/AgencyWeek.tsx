import type { AgencyCalendar } from '@crew/contract';
import { useState } from 'react';
import { call } from '../../api/client.ts';
import { Button } from '../../ui/Button.tsx';
import { Muted, Panel, PanelHead } from '../../ui/layout.tsx';
import { notify } from '../../ui/toasts.tsx';
import { hours, hourWords } from '../../words/format.ts';
import { weekOf, WEEKDAYS } from '../crew/use-person-form.ts';
import { WeekInput } from '../crew/WeekInput.tsx';
import { useAct } from './use-act.ts';

const typedOf = (week: readonly number[]): string[] => week.map((minutes) => (minutes === 0 ? '' : hours(minutes)));

/** On which days the agency works, and how long a day is. */
export function AgencyWeek({ calendar, mayEdit }: { readonly calendar: AgencyCalendar; readonly mayEdit: boolean }) {
  const [typed, setTyped] = useState<readonly string[] | null>(null);
  const [fault, setFault] = useState<string>();
  const { act, trouble, isBusy, clear } = useAct();
  const { week } = calendar;
  const type = (day: number, text: string): void => {
    setTyped((typed ?? typedOf(week)).map((old, place) => (place === day ? text : old)));
    setFault(undefined);
    clear();
  };
  const send = (minutes: readonly number[]): Promise<AgencyCalendar> => call('PATCH', '/calendar', { week: minutes });
  const save = async (): Promise<void> => {
    const next = weekOf(typed ?? []);
    if (next === null) return setFault('Write hours as 7.5 or 7:30, or leave a day empty.');
    const before = [...week];
    const isSaved = await act(async () => {
      await send(next);
      const undo = async (): Promise<void> => void (await act(async () => void (await send(before))));
      notify('The week is changed. What is open is planned anew.', { undo });
    });
    if (isSaved) setTyped(null);
  };
  return (
    <Panel as="section" aria-labelledby="agency-week">
      <PanelHead>
        <h2 id="agency-week">The agency’s week</h2>
      </PanelHead>
      <form
        style={{ padding: '10px 14px 12px' }}
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        {mayEdit ? (
          <>
            <WeekInput typed={typed ?? typedOf(week)} onType={type} fault={fault ?? trouble} />
            {typed === null ? (
              <Muted>Nobody is planned on a day that is left empty.</Muted>
            ) : (
              <span style={{ display: 'flex', gap: 8 }}>
                <Button kind="primary" type="submit" isDisabled={isBusy}>
                  Change the week
                </Button>
                <Button onPress={() => setTyped(null)}>Leave it</Button>
              </span>
            )}
          </>
        ) : (
          <p>
            {week.flatMap((minutes, day) => (minutes === 0 ? [] : [`${WEEKDAYS[day]} ${hours(minutes)}`])).join(', ')}:{' '}
            {hourWords(week.reduce((sum, minutes) => sum + minutes, 0))} a week
          </p>
        )}
      </form>
    </Panel>
  );
}
