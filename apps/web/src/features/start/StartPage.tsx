import { useNavigate, useSearchParams } from 'react-router';
import styled from 'styled-components';
import { refreshTouched, useClients, useTemplates } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { Empty, Meter, Muted, Page, PageHead, Panel } from '../../ui/layout.tsx';
import { FormButton } from '../../ui/form/SmallForm.tsx';
import { Trouble } from '../../ui/text.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { notify } from '../../ui/toasts.tsx';
import { narrow } from '../../ui/tokens.ts';
import { count } from '../../words/format.ts';
import { NewContactForm } from '../client/ContactForm.tsx';
import { NewClientForm } from '../client/NewClientForm.tsx';
import { Review } from './Review.tsx';
import { useStartForm, type Making, type StartState } from './use-start-form.ts';

const Copied = styled.div`
  margin-bottom: 8px;
`;

const NotCarried = styled.ul`
  max-height: 120px;
  overflow: auto;
  color: var(--ink-2);
  font-size: 12.5px;
`;

const Progress = styled.div`
  margin-top: 8px;
  color: var(--ink-2);
  font-size: 12.5px;
`;

const PlanFromField = styled.div`
  margin: 2px 0 8px;
`;

const Columns = styled.div`
  display: grid;
  grid-template-columns: 320px minmax(0, 1fr);
  gap: 14px;
  align-items: start;
  ${narrow} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Form = styled(Panel)`
  position: sticky;
  top: 58px;
  padding: 16px 16px 18px;
  display: flex;
  flex-direction: column;
  gap: 3px;
  ${narrow} {
    position: static;
  }
`;

/** A field with a button beside its label. */
const WithButton = styled.div`
  position: relative;
`;
const BesideLabel = styled.span`
  position: absolute;
  top: -7px;
  right: -10px;
`;

/** A new engagement: who for, from what, when and by whom; everything it will make is previewed. */
export function StartPage() {
  const { today } = useWho();
  const [search] = useSearchParams();
  const from = { templateId: search.get('template'), copyOf: search.get('copyOf') };
  const navigate = useNavigate();
  const onStarted = async (id: string): Promise<void> => {
    notify(`“${state.form.name}” started with ${count(state.run?.tasks.length ?? 0, 'task')}.`);
    await navigate(`/engagements/${id}`);
    await refreshTouched();
  };
  const state = useStartForm(from, { today, onStarted });
  return (
    <Page>
      <PageHead>
        <h1>{state.form.copyOf === null ? 'Start an engagement' : 'Copy an engagement'}</h1>
        <Muted>Nothing is created until you start.</Muted>
      </PageHead>
      <Columns>
        <StartFields state={state} />
        {state.run === undefined ? (
          <Panel>
            <Empty title={state.problem === undefined ? 'The preview appears here.' : state.problem.message}>
              <p>
                Choose a template and a day: you see its phases and tasks with their dates, who has room for them, and who it would
                overload.
              </p>
            </Empty>
          </Panel>
        ) : (
          <Review state={state} run={state.run} today={today} />
        )}
      </Columns>
    </Page>
  );
}

/** What was left out or added belongs to the template it was chosen from. */
const NOTHING_CHOSEN = {
  addPhases: [],
  addTasks: [],
  addKept: [],
  withoutPhases: [],
  withoutTasks: [],
  withoutDeliverables: [],
  roles: {},
};

/** What is copied, and what of it could not be carried over. */
function CopyNote({ state }: { readonly state: StartState }) {
  const notes = state.run?.notes ?? [];
  return (
    <Copied>
      <p>
        Copies <strong>{state.run?.copyOf?.name ?? '…'}</strong>: tasks, dependencies, steps, files and people as planned, with new dates.
      </p>
      {notes.length === 0 ? null : (
        <NotCarried tabIndex={0} aria-label="Not carried over">
          {notes.map((note) => (
            <li key={note}>{note}</li>
          ))}
        </NotCarried>
      )}
    </Copied>
  );
}

const STEP_WORDS: Readonly<Record<Making['step'], string>> = {
  phases: 'Creating phases',
  tasks: 'Creating tasks',
  people: 'Assigning people',
  days: 'Scheduling',
};

/** Progress; nothing of it exists before all of it does. */
function MakingNote({ making }: { readonly making: Making }) {
  const words = making.step === 'tasks' ? `${STEP_WORDS.tasks}: ${making.done} of ${making.of}` : STEP_WORDS[making.step];
  return (
    <Progress role="status">
      <Meter $part={making.of === 0 ? 100 : (making.done * 100) / making.of} />
      {words} …
    </Progress>
  );
}

function StartFields({ state }: { readonly state: StartState }) {
  const { form, fields, change, making, run } = state;
  return (
    <Form as="form" aria-label="New engagement" onSubmit={fields.submit} noValidate>
      <ClientFields state={state} />
      {form.copyOf === null ? null : <CopyNote state={state} />}
      <TemplateChoice state={state} onChoose={(templateId) => change({ ...NOTHING_CHOSEN, templateId, copyOf: null })} />
      <Field {...fields.bind('name')} label="Name" placeholder="Name your team will use" />
      <DateFields state={state} />
      <Trouble words={fields.trouble} />
      <Button kind="primary" type="submit">
        Start engagement{run === undefined ? '' : ` (${count(run.tasks.length, 'task')})`}
      </Button>
      {making === null ? null : <MakingNote making={making} />}
    </Form>
  );
}

/** The client and the contact. */
function ClientFields({ state: { form, fields, change } }: { readonly state: StartState }) {
  const { data: clients } = useClients();
  const contacts = clients?.find((client) => client.id === form.clientId)?.contacts ?? [];
  const choose = (clientId: string): void => change({ clientId, contactId: null });
  return (
    <>
      <WithButton>
        <Choose {...fields.bind('clientId')} label="Client" choices={clients} value={form.clientId} onChange={choose} />
        <NewClient onAdded={choose} />
      </WithButton>
      {form.clientId === null ? null : (
        <WithButton>
          <Choose {...fields.bind('contactId')} label="Contact" choices={contacts} placeholder="No contact" />
          <NewContact clientId={form.clientId} onAdded={(contactId) => change({ contactId })} />
        </WithButton>
      )}
    </>
  );
}

function TemplateChoice({ state: { form, fields }, onChoose }: { readonly state: StartState; readonly onChoose: (id: string) => void }) {
  const { data: templates } = useTemplates();
  const choices = templates
    ?.filter((template) => template.kind === 'engagement')
    .map(({ id, name, taskCount, phases }) => ({ id, name, detail: `${count(phases.length, 'phase')}, ${count(taskCount, 'task')}` }));
  return (
    <Choose
      {...fields.bind('templateId')}
      label={form.copyOf === null ? 'Template' : 'Or start from a template'}
      choices={choices}
      onChange={onChoose}
    />
  );
}

const PLAN_FROM = [
  { id: 'start', name: 'From start date' },
  { id: 'promise', name: 'Back from promised date' },
] as const;

/** Forward from a first day, or back from the promised day. */
function DateFields({ state: { form, fields, problem } }: { readonly state: StartState }) {
  const { today } = useWho();
  const promise = fields.bind('promise');
  const tooEarly = problem?.code === 'promise-too-early' ? problem.message : undefined;
  return (
    <>
      <PlanFromField>
        <Segmented {...fields.bind('from')} label="Plan from" parts={PLAN_FROM} />
      </PlanFromField>
      {form.from === 'start' ? <DayField {...fields.bind('start')} label="First day" today={today} /> : null}
      <DayField
        {...promise}
        label={form.from === 'start' ? 'Promised date, if there is one' : 'Promised date'}
        today={today}
        error={promise.error ?? tooEarly}
      />
    </>
  );
}

/** A new contact, added without leaving the form. */
function NewContact({ clientId, onAdded }: { readonly clientId: string; readonly onAdded: (contactId: string) => void }) {
  return (
    <BesideLabel>
      <FormButton
        button={
          <Button kind="quiet" isFlush>
            New contact…
          </Button>
        }
        label="New contact"
      >
        {(close) => (
          <NewContactForm
            clientId={clientId}
            onAdded={({ id }) => {
              onAdded(id);
              close();
            }}
          />
        )}
      </FormButton>
    </BesideLabel>
  );
}

/** A client that is new, added without leaving the form. */
function NewClient({ onAdded }: { readonly onAdded: (clientId: string) => void }) {
  return (
    <BesideLabel>
      <FormButton
        button={
          <Button kind="quiet" isFlush>
            New client…
          </Button>
        }
        label="New client"
      >
        {(close) => (
          <NewClientForm
            onAdded={(id) => {
              onAdded(id);
              close();
            }}
          />
        )}
      </FormButton>
    </BesideLabel>
  );
}
