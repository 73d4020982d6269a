import type { AgencySettings } from '@crew/contract';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useSettings } from '../../api/queries.ts';
import { backBy, perform } from '../../session/perform.ts';
import { Choose } from '../../ui/Field.tsx';
import { Muted, Panel, PanelBody, PanelHead } from '../../ui/layout.tsx';
import { phone } from '../../ui/tokens.ts';
import { count } from '../../words/format.ts';

const Rows = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 200px 200px;
  gap: 8px 14px;
  align-items: center;
  max-width: 860px;
  ${phone} {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    > strong {
      grid-column: 1 / -1;
      margin-top: 6px;
    }
  }
`;
const Heading = styled.span`
  color: var(--ink-2);
  font-size: 12.5px;
  ${phone} {
    &:first-child {
      display: none;
    }
  }
`;

type Reminder = Extract<keyof AgencySettings, `remind${string}`>;

/** What people are reminded of: who is told first, and the setting of the lead where there is one. */
const ROWS: readonly { readonly of: string; readonly first: Reminder; readonly lead: Reminder | null }[] = [
  { of: 'Handoffs that wait', first: 'remindHours', lead: 'remindLeadHours' },
  { of: 'Tasks that are overdue or wait for somebody', first: 'remindTaskHours', lead: 'remindTaskLeadHours' },
  { of: 'What we need from clients (mails their contact)', first: 'remindClientHours', lead: 'remindClientLeadHours' },
  { of: 'Done work with no time logged', first: 'remindLoggingHours', lead: null },
];
const HOURS = [0, 2, 4, 8, 12, 16, 24, 40];

const afterWords = (hours: number): string => (hours === 0 ? 'never' : `after ${count(hours, 'working hour')}`);

/** After how long somebody is reminded of what they hold, in their own working hours; for owners. */
export function Reminders() {
  const { data } = useSettings();
  if (data === undefined) return null;
  return (
    <Panel $space="above" aria-label="Reminders">
      <PanelHead>
        <h2>Reminders</h2>
        <Muted>counted in that person’s working hours; each reminder is sent once</Muted>
      </PanelHead>
      <PanelBody>
        <Rows>
          <Heading />
          <Heading>Remind the person responsible</Heading>
          <Heading>Then tell the lead</Heading>
          {ROWS.map(({ of, first, lead }) => [
            <strong key={of}>{of}</strong>,
            <HoursChoice key={first} field={first} label={`${of}: first reminder`} value={data[first]} />,
            lead === null ? (
              <span key={`${of} lead`} />
            ) : (
              <HoursChoice key={lead} field={lead} label={`${of}: tell the lead`} value={data[lead]} />
            ),
          ])}
        </Rows>
      </PanelBody>
    </Panel>
  );
}

function HoursChoice({ field, label, value }: { readonly field: Reminder; readonly label: string; readonly value: number }) {
  const choices = [...new Set([...HOURS, value])].sort((left, right) => left - right);
  return (
    <Choose
      label={label}
      isLabelHidden
      isTight
      choices={choices.map((hours) => ({ id: String(hours), name: afterWords(hours) }))}
      value={String(value)}
      onChange={(hours) => void remindAfter(field, { label, hours: Number(hours), before: value })}
    />
  );
}

const setTo = (field: Reminder, hours: number): Promise<AgencySettings> => call<AgencySettings>('PATCH', '/settings', { [field]: hours });

const remindAfter = (
  field: Reminder,
  { label, hours, before }: { readonly label: string; readonly hours: number; readonly before: number },
): Promise<unknown> =>
  perform({
    send: () => setTo(field, hours),
    said: `${label} ${afterWords(hours)}.`,
    undo: () => backBy(() => setTo(field, before)),
  });
