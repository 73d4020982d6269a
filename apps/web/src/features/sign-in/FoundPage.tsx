import { BeginAgency } from '@crew/contract';
import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { Controller, useForm } from 'react-hook-form';
import { Navigate, useNavigate } from 'react-router';
import styled from 'styled-components';
import { mutate } from 'swr';
import { ApiError, call, troubleWords } from '../../api/client.ts';
import { enterSession, useAgency } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { FormField } from '../../ui/FormField.tsx';
import { Loading, Page, Panel } from '../../ui/layout.tsx';
import { Tick } from '../../ui/Tick.tsx';

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
  const form = useForm<BeginAgency>({
    resolver: classValidatorResolver(BeginAgency),
    defaultValues: { agencyName: '', name: '', email: '', password: '', withExamples: true },
  });
  if (agency === undefined) return <Page>{<Loading />}</Page>;
  if (agency.isFounded) return <Navigate to="/" replace />;
  const found = form.handleSubmit(async (input) => {
    try {
      await call('POST', '/agency', { ...input, zone: new Intl.DateTimeFormat().resolvedOptions().timeZone });
      await enterSession();
      await navigate('/', { replace: true });
      await mutate('/agency');
    } catch (error) {
      const field = error instanceof ApiError && error.field !== undefined ? (error.field as keyof BeginAgency) : 'password';
      form.setError(field, { message: troubleWords(error) });
    }
  });
  return (
    <Ground>
      <Panel>
        <Form onSubmit={(event) => void found(event)} noValidate>
          <h1>Found your agency</h1>
          <p>Nobody has been here before. You become its owner; everything can be changed later.</p>
          {FIELDS.map((field) => (
            <FormField key={field.name} control={form.control} {...field} />
          ))}
          <Controller
            control={form.control}
            name="withExamples"
            render={({ field }) => (
              <Tick isSelected={field.value} onChange={field.onChange} style={{ marginBottom: 16 }}>
                Begin with example templates of an exhibition studio
              </Tick>
            )}
          />
          <Button kind="primary" type="submit" isDisabled={form.formState.isSubmitting}>
            Found it
          </Button>
        </Form>
      </Panel>
    </Ground>
  );
}
