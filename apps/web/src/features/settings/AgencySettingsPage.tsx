import { EditSettings, type AgencySettings, type SecondFactorFor } from '@crew/contract';
import { Link } from 'react-aria-components';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useCalendar, useSettings } from '../../api/queries.ts';
import { backBy, perform, performOrThrow } from '../../session/perform.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { ErrorNote, Loading, Page, PageHead, Panel, PanelBody, PanelHead, Push } from '../../ui/layout.tsx';
import { Note, Trouble } from '../../ui/text.tsx';
import { AgencyWeek } from '../calendar/AgencyWeek.tsx';
import { ColourChoice } from './ColourChoice.tsx';
import { LogoField } from './LogoField.tsx';
import { Columns, PanelForm } from './parts.tsx';
import { SettingsTabs } from './SettingsTabs.tsx';

/** Where the rest of what the agency decides is changed. */
const ELSEWHERE = [
  { href: '/crew', name: 'People and access', about: 'who is on the crew, their roles, hours and access' },
  { href: '/settings/lists', name: 'Roles, labels, statuses', about: 'kinds of work, and how tasks are marked' },
  { href: '/calendar', name: 'Closed days and time off', about: 'which days no work is planned on' },
  { href: '/templates?show=fields', name: 'Custom fields', about: 'extra facts about tasks' },
  { href: '/handoffs', name: 'Reminders', about: 'when people are reminded, and then the lead' },
  { href: '/handoffs/rules', name: 'Rules', about: 'what is done automatically' },
  { href: '/mail/server', name: 'Mail server', about: 'how mail leaves, and how replies come in' },
  { href: '/webhooks', name: 'Webhooks', about: 'which programs are told about events' },
] as const;

const Elsewhere = styled.ul`
  li {
    padding: 6px 0;
  }
  a {
    color: var(--petrol);
    font-weight: 600;
  }
  small {
    display: block;
    color: var(--ink-2);
  }
`;

/** What the owner decides for the whole agency. */
export function AgencySettingsPage() {
  const { data: settings, error } = useSettings();
  return (
    <Page>
      <PageHead>
        <h1>Settings</h1>
        <SettingsTabs shown="/settings/agency" />
      </PageHead>
      {error ? <ErrorNote error={error} /> : settings === undefined ? <Loading rows={10} /> : <Parts settings={settings} />}
    </Page>
  );
}

function Parts({ settings }: { readonly settings: AgencySettings }) {
  return (
    <Columns>
      <div>
        <AboutPanel key={`${settings.name} ${settings.zone} ${settings.currency} ${settings.colour}`} settings={settings} />
        <WeekPart />
      </div>
      <div>
        <HolidayPart settings={settings} />
        <SecondFactorChoice value={settings.secondFactorFor} />
        <Panel aria-label="Also for the agency">
          <PanelHead>
            <h2>Also for the agency</h2>
          </PanelHead>
          <PanelBody>
            <Elsewhere>
              {ELSEWHERE.map(({ href, name, about }) => (
                <li key={href}>
                  <Link href={href}>{name}</Link>
                  <small>{about}</small>
                </li>
              ))}
            </Elsewhere>
          </PanelBody>
        </Panel>
      </div>
    </Columns>
  );
}

/** How long the agency works on each weekday, as in the calendar. */
function WeekPart() {
  const me = useWho();
  const { data: calendar } = useCalendar();
  return calendar === undefined ? <Loading rows={4} /> : <AgencyWeek calendar={calendar} today={me.today} mayEdit />;
}

const COUNTRY_NAMES = new Intl.DisplayNames('en', { type: 'region' });

/** Of which country's public holidays the agency is closed. */
function HolidayPart({ settings: { country } }: { readonly settings: AgencySettings }) {
  const navigate = useNavigate();
  return (
    <Panel aria-label="Public holidays">
      <PanelHead>
        <h2>Public holidays</h2>
        <Push />
        <Button onPress={() => void navigate('/calendar?show=holidays')}>
          {country === null ? 'Choose a country…' : 'Edit public holidays…'}
        </Button>
      </PanelHead>
      <PanelBody>
        {country === null
          ? 'No country is chosen yet; closed days are entered by hand.'
          : `Closed on public holidays of ${COUNTRY_NAMES.of(country) ?? country}.`}
      </PanelBody>
    </Panel>
  );
}

/** The present one is among them, also where the browser does not list it. */
const zonesWith = (zone: string) =>
  [...new Set([...Intl.supportedValuesOf('timeZone'), 'UTC', zone])].sort().map((id) => ({ id, name: id.replaceAll('_', ' ') }));
const CURRENCY_NAMES = new Intl.DisplayNames('en', { type: 'currency' });
const CURRENCIES = Intl.supportedValuesOf('currency').map((id) => ({ id, name: `${id} · ${CURRENCY_NAMES.of(id) ?? id}` }));

function AboutPanel({ settings }: { readonly settings: AgencySettings }) {
  const { name, zone, currency, colour } = settings;
  const form = useInputForm({
    rules: EditSettings,
    typed: { name, zone, currency, colour },
    input: (typed) => ({ ...typed, name: typed.name.trim() }),
    send: (input) =>
      performOrThrow({
        send: () => call<AgencySettings>('PATCH', '/settings', input),
        said: 'Agency settings saved.',
        undo: () => backBy(() => call('PATCH', '/settings', { name, zone, currency, colour })),
      }),
  });
  return (
    <Panel aria-label="About the agency">
      <PanelHead>
        <h2>About the agency</h2>
      </PanelHead>
      <PanelBody>
        <LogoField logo={settings.logo} />
        <PanelForm onSubmit={form.submit} noValidate>
          <Field {...form.bind('name')} label="Name of the agency" />
          <Choose {...form.bind('zone')} label="Time zone" choices={zonesWith(zone)} />
          <Choose {...form.bind('currency')} label="Currency" choices={CURRENCIES} />
          <ColourChoice {...form.bind('colour')} />
          <Trouble words={form.trouble} />
          <div>
            <Button kind="primary" type="submit" isDisabled={!form.isDirty}>
              Save
            </Button>
          </div>
        </PanelForm>
      </PanelBody>
    </Panel>
  );
}

const FOR: readonly { readonly id: SecondFactorFor; readonly name: string }[] = [
  { id: 'nobody', name: 'Optional for everybody' },
  { id: 'leads', name: 'Required for owners and leads' },
];

function SecondFactorChoice({ value }: { readonly value: SecondFactorFor }) {
  const set = (secondFactorFor: SecondFactorFor): Promise<AgencySettings> => call('PATCH', '/settings', { secondFactorFor });
  return (
    <Panel aria-label="Second factor of the crew">
      <PanelHead>
        <h2>Second factor</h2>
      </PanelHead>
      <PanelBody>
        <Choose
          label="Signing in with a code of an app"
          choices={FOR}
          value={value}
          onChange={(next) =>
            void perform({
              send: () => set(next as SecondFactorFor),
              said: next === 'leads' ? 'Owners and leads now need a second factor.' : 'The second factor is optional now.',
              undo: () => backBy(() => set(value)),
            })
          }
        />
        <Note $isSmall>Anyone who needs one and has none sets it up before doing anything else.</Note>
      </PanelBody>
    </Panel>
  );
}
