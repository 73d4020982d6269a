import type { AgencySettings } from '@crew/contract';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useSettings } from '../../api/queries.ts';
import { backBy, perform } from '../../session/perform.ts';
import { Choose } from '../../ui/Field.tsx';
import { count } from '../../words/format.ts';

const Line = styled.div`
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 6px 16px;
  margin-top: 12px;
`;

type Reminder = 'remindHours' | 'remindLeadHours';
const LABELS: Readonly<Record<Reminder, string>> = {
  remindHours: 'Remind whoever holds a handoff',
  remindLeadHours: 'Tell the lead',
};
const HOURS = [0, 2, 4, 8, 12, 16, 24, 40];

const afterWords = (hours: number): string => (hours === 0 ? 'never' : `after ${count(hours, 'working hour')}`);

/** After how long somebody is reminded of what they hold, in their own working hours; for owners. */
export function Reminders() {
  const { data } = useSettings();
  if (data === undefined) return null;
  return (
    <Line>
      {(Object.keys(LABELS) as Reminder[]).map((field) => (
        <Choose
          key={field}
          label={LABELS[field]}
          isTight
          choices={[...new Set([...HOURS, data[field]])]
            .sort((left, right) => left - right)
            .map((hours) => ({ id: String(hours), name: afterWords(hours) }))}
          value={String(data[field])}
          onChange={(hours) => void remindAfter(field, { hours: Number(hours), before: data[field] })}
        />
      ))}
    </Line>
  );
}

const setTo = (field: Reminder, hours: number): Promise<AgencySettings> => call<AgencySettings>('PATCH', '/settings', { [field]: hours });

const remindAfter = (field: Reminder, { hours, before }: { readonly hours: number; readonly before: number }): Promise<unknown> =>
  perform({
    send: () => setTo(field, hours),
    said: hours === 0 ? `${LABELS[field]}: turned off.` : `${LABELS[field]} ${afterWords(hours)}.`,
    undo: () => backBy(() => setTo(field, before)),
  });
