import { SetUpAgency } from '@crew/contract';
import countryToCurrency, { type Countries } from 'country-to-currency';
import { useState } from 'react';
import { Navigate, useNavigate, useSearchParams } from 'react-router';
import styled from 'styled-components';
import { mutate } from 'swr';
import { call } from '../../api/client.ts';
import { enterSession, useAgency } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { minutesTyped, Unreadable } from '../../ui/form/typed.ts';
import { useInputForm, type InputForm } from '../../ui/form/use-input-form.ts';
import { Loading, Page } from '../../ui/layout.tsx';
import { Trouble } from '../../ui/text.tsx';
import { phone } from '../../ui/tokens.ts';
import { EntryPage } from '../sign-in/EntryPage.tsx';

const Form = styled.form`
  display: flex;
  flex-direction: column;
  gap: 4px;
  h2 {
    font-size: 14px;
    margin: 8px 0 4px;
  }
`;
const Two = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 130px;
  gap: 10px;
  ${phone} {
    grid-template-columns: minmax(0, 1fr);
    gap: 4px;
  }
`;

const REGION_NAMES = new Intl.DisplayNames('en', { type: 'region' });
const COUNTRIES = (Object.keys(countryToCurrency) as Countries[])
  .map((id) => ({ id, name: REGION_NAMES.of(id) ?? id }))
  .sort((one, other) => one.name.localeCompare(other.name));
/** Monday to Friday. */
const WORKING_DAYS = 5;

/** The country the browser is set to, as a first guess. */
const countryHere = (): Countries | null => {
  const region = new Intl.Locale(navigator.language).maximize().region;
  return COUNTRIES.some(({ id }) => id === region) ? (region as Countries) : null;
};

const firstTyped = (key: string) => ({
  ...{ setupKey: key, agencyName: '', name: '', email: '', password: '', hours: '7.5' },
  country: countryHere(),
});
type Typed = ReturnType<typeof firstTyped>;

/** The hours of each working day as a week; what cannot be read is said at the field of the hours. */
const weekOf = (hours: string): number[] | Unreadable => {
  const minutes = minutesTyped(hours);
  return minutes instanceof Unreadable ? minutes : Array.from({ length: 7 }, (_, day) => (day < WORKING_DAYS ? minutes : 0));
};

/** The first page of a new installation: whoever has the set-up key makes its agency. */
export function SetUpPage() {
  const { data: agency } = useAgency();
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const [isMade, setMade] = useState(false);
  const form = useInputForm({
    rules: SetUpAgency,
    typed: firstTyped(search.get('key') ?? ''),
    input: ({ hours, country, ...typed }) => ({
      ...typed,
      zone: new Intl.DateTimeFormat().resolvedOptions().timeZone,
      week: weekOf(hours),
      ...(country === null ? {} : { country, currency: countryToCurrency[country] }),
    }),
    send: async (input) => {
      await call('POST', '/agency', input);
      setMade(true);
      await enterSession();
      await navigate('/settings/set-up/holidays', { replace: true });
      await mutate('/agency');
    },
  });
  if (agency === undefined) return <Page>{<Loading />}</Page>;
  // The session must know the new agency before the first step opens.
  if (agency.isSetUp && !isMade) return <Navigate to="/" replace />;
  return (
    <EntryPage title="Set up your agency">
      <p>You become its owner. Four short steps follow; everything can be changed later.</p>
      <Form onSubmit={form.submit} noValidate aria-label="Set up your agency">
        <Fields form={form} hasKey={search.get('key') !== null} />
        <Trouble words={form.trouble} />
        <Button kind="primary" type="submit">
          Create agency
        </Button>
      </Form>
    </EntryPage>
  );
}

function Fields({ form, hasKey }: { readonly form: InputForm<Typed & { readonly week?: never }>; readonly hasKey: boolean }) {
  const key = form.bind('setupKey');
  return (
    <>
      {hasKey && key.error === undefined ? null : <Field {...key} label="Set-up key, printed where the server was started" autoFocus />}
      <Field {...form.bind('agencyName')} label="Name of the agency" autoFocus={hasKey} />
      <Two>
        <Choose {...form.bind('country')} label="Country" placeholder="Choose a country" choices={COUNTRIES} />
        <Field {...form.bind('hours')} label="Hours a day, Mon–Fri" inputMode="decimal" />
      </Two>
      <h2>Your sign-in</h2>
      <Field {...form.bind('name')} label="Your name" autoComplete="name" />
      <Field {...form.bind('email')} label="Your mail address" type="email" autoComplete="username" />
      <Field {...form.bind('password')} label="A password of at least 12 characters" type="password" autoComplete="new-password" />
    </>
  );
}
