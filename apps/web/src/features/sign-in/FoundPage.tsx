import { BeginAgency } from '@crew/contract';
import { Navigate, useNavigate } from 'react-router';
import styled from 'styled-components';
import { mutate } from 'swr';
import { call } from '../../api/client.ts';
import { enterSession, useAgency } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { Loading, Page, Panel } from '../../ui/layout.tsx';
import { Trouble } from '../../ui/text.tsx';
import { Tick } from '../../ui/Tick.tsx';

const DemoTick = styled(Tick)`
  margin-bottom: 16px;
`;

const Ground = styled.main`
  min-height: 100vh;
  display: grid;
  place-content: center;
  padding: 24px 12px;
`;
const Form = styled.form`
  width: min(440px, 94vw);
  padding: 22px 24px 24px;
  display: flex;
  flex-direction: column;
  gap: 4px;
  h1 {
    margin-bottom: 4px;
  }
  > p {
    color: var(--ink-2);
    margin-bottom: 14px;
  }
`;

const FIELDS = [
  { name: 'agencyName', label: 'Name of the agency', type: 'text' },
  { name: 'name', label: 'Your name', type: 'text' },
  { name: 'email', label: 'Your mail address', type: 'email' },
  { name: 'password', label: 'A password of at least 12 characters', type: 'password' },
] as const;

/** The first visitor of an empty installation founds its agency. */
export function FoundPage() {
  const { data: agency } = useAgency();
  const navigate = useNavigate();
  const form = useInputForm({
    rules: BeginAgency,
    typed: { agencyName: '', name: '', email: '', password: '', withExamples: true },
    input: (typed) => ({ ...typed, zone: new Intl.DateTimeFormat().resolvedOptions().timeZone }),
    send: async (input) => {
      await call('POST', '/agency', input);
      await enterSession();
      await navigate('/', { replace: true });
      await mutate('/agency');
    },
  });
  if (agency === undefined) return <Page>{<Loading />}</Page>;
  if (agency.isFounded) return <Navigate to="/" replace />;
  return (
    <Ground>
      <Panel>
        <Form onSubmit={form.submit} noValidate>
          <h1>Set up your agency</h1>
          <p>Nobody has been here before. You become its owner; everything can be changed later.</p>
          {FIELDS.map(({ name, ...field }) => (
            <Field key={name} {...field} {...form.bind(name)} />
          ))}
          <DemoTick {...form.bindTick('withExamples')}>Start with example templates of an exhibition studio</DemoTick>
          <Trouble words={form.trouble} />
          <Button kind="primary" type="submit">
            Create agency
          </Button>
        </Form>
      </Panel>
    </Ground>
  );
}
