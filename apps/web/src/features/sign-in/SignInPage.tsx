import type { DemoPerson } from '@crew/contract';
import { SignIn } from '@crew/contract';
import { useState } from 'react';
import { Button as AriaButton, Link } from 'react-aria-components';
import { Navigate, useLocation, useNavigate } from 'react-router';
import styled from 'styled-components';
import { ApiError, call, troubleWords } from '../../api/client.ts';
import { enterSession, useAgency, useDemoPeople } from '../../api/queries.ts';
import { Mark } from '../../ui/Mark.tsx';
import { Logo } from '../../ui/Logo.tsx';
import { EntryHead } from './EntryPage.tsx';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { Trouble } from '../../ui/text.tsx';
import { Panel } from '../../ui/layout.tsx';
import { narrow } from '../../ui/tokens.ts';

const Ground = styled.main`
  min-height: 100vh;
  display: grid;
  grid-template-columns: 360px minmax(0, 640px);
  justify-content: center;
  align-content: center;
  align-items: start;
  gap: 34px;
  padding: 24px;
  ${narrow} {
    grid-template-columns: minmax(0, 460px);
    align-content: start;
  }
`;
const Form = styled.form`
  padding: 18px 20px 20px;
  display: flex;
  flex-direction: column;
  gap: 4px;
`;
const Forgotten = styled(Link)`
  margin-top: 10px;
  font-size: 12.5px;
  color: var(--petrol);
`;
const People = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 6px;
  @media (max-width: 520px) {
    grid-template-columns: 1fr;
  }
`;
const PersonButton = styled(AriaButton)`
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 7px 10px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--panel);
  text-align: left;
  cursor: pointer;
  &[data-hovered] {
    border-color: var(--petrol);
  }
  small {
    display: block;
    color: var(--ink-2);
    font-size: 12px;
  }
  > span:first-child {
    display: grid;
    place-items: center;
    flex: none;
    width: 28px;
    height: 26px;
    border-radius: 6px;
    background: var(--chip);
    font-size: 10.5px;
    font-weight: 700;
  }
`;
/** What signing in as them shows comes first; who it is, below. */
const Words = styled.span<{ $isShown: boolean }>`
  display: flex;
  flex-direction: ${({ $isShown }) => ($isShown ? 'column-reverse' : 'column')};
  ${({ $isShown }) =>
    $isShown &&
    `
    && small { color: var(--ink); font-size: 13.5px; font-weight: 600; }
    > span { color: var(--ink-2); font-size: 12px; }
  `}
`;
/** Whose installation this is. */
const AgencyLine = styled.p`
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 14px 20px 0;
  font-weight: 600;
`;
const Group = styled.section`
  & + & {
    margin-top: 18px;
  }
  h2 {
    font-size: 14px;
    margin-bottom: 8px;
  }
  p {
    color: var(--ink-2);
    font-size: 12.5px;
    margin: -4px 0 8px;
  }
`;

const ACCESS_WORDS: Readonly<Record<DemoPerson['access'], string>> = {
  owner: 'owner',
  lead: 'lead',
  member: 'crew',
  freelancer: 'freelancer',
  client: 'client',
};

/** Signing in by address and password; with the demo on, as anybody of the demo by one click. */
export function SignInPage() {
  const { data: people = [] } = useDemoPeople();
  const { data: agency } = useAgency();
  const [trouble, setTrouble] = useState<string>();
  const navigate = useNavigate();
  const from = (useLocation().state as { from?: string } | null)?.from ?? '/';

  if (agency?.isSetUp === false) return <Navigate to="/set-up" replace />;
  const enter = async (path: string, body: object): Promise<void> => {
    await call('POST', path, body);
    await enterSession();
    await navigate(from, { replace: true });
  };
  const enterAs = (person: DemoPerson): void => {
    enter('/session/demo', { accountId: person.accountId }).catch((error: unknown) => setTrouble(troubleWords(error)));
  };
  return (
    <Ground>
      <Panel>
        <EntryHead>
          <Mark />
          <h1>Nimble Crew</h1>
        </EntryHead>
        {agency === undefined || agency.name === null ? null : (
          <AgencyLine>
            {agency.logo === null ? null : <Logo src={agency.logo} alt="" />}
            <span>{agency.name}</span>
          </AgencyLine>
        )}
        <PasswordForm onEnter={(input) => enter('/session', input)} />
        <Trouble words={trouble} />
      </Panel>
      {people.length === 0 ? null : (
        <div>
          <Group aria-labelledby="shown">
            <h2 id="shown">Look around the demo</h2>
            <p>An exhibition studio that was made up. One click signs you in; nothing you do here reaches anybody.</p>
            <DemoList people={people.filter(({ shows }) => shows !== null)} onChoose={enterAs} />
          </Group>
          <Group aria-labelledby="others">
            <h2 id="others">Or as somebody else</h2>
            <DemoList people={people.filter(({ shows }) => shows === null)} onChoose={enterAs} />
          </Group>
        </div>
      )}
    </Ground>
  );
}

function DemoList({ people, onChoose }: { readonly people: readonly DemoPerson[]; readonly onChoose: (person: DemoPerson) => void }) {
  return (
    <People>
      {people.map((person) => (
        <PersonButton key={person.accountId} onPress={() => onChoose(person)}>
          <span aria-hidden="true">{person.initials}</span>
          <Words $isShown={person.shows !== null}>
            <span>{person.name}</span>
            <small>{person.shows ?? lineOf(person)}</small>
          </Words>
        </PersonButton>
      ))}
    </People>
  );
}

const lineOf = ({ line, access }: DemoPerson): string =>
  access === 'member' || access === 'client' ? line : `${line} · ${ACCESS_WORDS[access]}`;

function PasswordForm({ onEnter }: { readonly onEnter: (input: SignIn) => Promise<void> }) {
  // The code is asked for once the password is known to be right.
  const [needsCode, setNeedsCode] = useState(false);
  const form = useInputForm({
    rules: SignIn,
    typed: { email: '', password: '', code: '' },
    input: ({ email, password, code }) => ({ email, password, ...(needsCode ? { code } : {}) }),
    send: async (input) => {
      try {
        await onEnter(input);
      } catch (error) {
        if (error instanceof ApiError && error.code === 'second-factor-needed') setNeedsCode(true);
        throw error;
      }
    },
  });
  return (
    <Form onSubmit={form.submit} noValidate>
      <Field {...form.bind('email')} label="Mail address" type="email" autoComplete="username" />
      <Field {...form.bind('password')} label="Password" type="password" autoComplete="current-password" />
      {needsCode ? (
        <Field {...form.bind('code')} label="Code from your app, or a recovery code" autoComplete="one-time-code" autoFocus />
      ) : null}
      <Trouble words={form.trouble} />
      <Button kind="primary" type="submit">
        Sign in
      </Button>
      <Forgotten href="/forgotten">Forgot your password?</Forgotten>
    </Form>
  );
}
