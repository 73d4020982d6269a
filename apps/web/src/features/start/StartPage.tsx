import { perform } from '../../session/perform.ts';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { refreshTouched, useClients, useTemplates } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { Empty, Meter, Muted, Page, PageHead, Panel } from '../../ui/layout.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { notify } from '../../ui/toasts.tsx';
import { narrow } from '../../ui/tokens.ts';
import { count } from '../../words/format.ts';
import { Review } from './Review.tsx';
import { useStartForm, type Making, type StartState } from './use-start-form.ts';

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

/** A new engagement: who for, from what, when and by whom; everything it will make is shown before it is made. */
export function StartPage() {
  const { today } = useWho();
  const [search] = useSearchParams();
  const from = { templateId: search.get('template'), copyOf: search.get('copyOf') };
  const state = useStartForm(from, today);
  const navigate = useNavigate();
  const start = async (): Promise<void> => {
    const id = await state.start();
    if (id === null) return;
    notify(`“${state.form.name}” started with ${count(state.run?.tasks.length ?? 0, 'task')}.`);
    await navigate(`/engagements/${id}`);
    await refreshTouched();
  };
  return (
    <Page>
      <PageHead>
        <h1>{state.form.copyOf === null ? 'Start an engagement' : 'Copy an engagement'}</h1>
        <Muted>Nothing is made until you start it.</Muted>
      </PageHead>
      <Columns>
        <StartFields state={state} onStart={() => void start()} />
        {state.run === undefined ? (
          <Panel>
            <Empty title={state.problem === undefined ? 'What it will make appears here.' : state.problem.message}>
              <p>
                Choose a template and a day: you see its phases and tasks with their dates, who has room for them, and whom it would
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

/** What was left out or added belongs to what it was chosen from. */
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
    <div style={{ marginBottom: 8 }}>
      <p>
        Copies <strong>{state.run?.copyOf?.name ?? '…'}</strong>: tasks, dependencies, steps, files and people as they were planned, on days
        of its own.
      </p>
      {notes.length === 0 ? null : (
        <ul style={{ maxHeight: 120, overflow: 'auto', color: 'var(--ink-2)', fontSize: 12.5 }} tabIndex={0} aria-label="Not carried over">
          {notes.map((note) => (
            <li key={note}>{note}</li>
          ))}
        </ul>
      )}
    </div>
  );
}

const STEP_WORDS: Readonly<Record<Making['step'], string>> = {
  phases: 'Making the phases',
  tasks: 'Making the tasks',
  people: 'Giving them to people',
  days: 'Computing the days',
};

/** How far it is; nothing of it is there before all of it is. */
function MakingNote({ making }: { readonly making: Making }) {
  const words = making.step === 'tasks' ? `${STEP_WORDS.tasks}: ${making.done} of ${making.of}` : STEP_WORDS[making.step];
  return (
    <div role="status" style={{ marginTop: 8, color: 'var(--ink-2)', fontSize: 12.5 }}>
      <Meter $part={making.of === 0 ? 100 : (making.done * 100) / making.of} />
      {words} …
    </div>
  );
}

function StartFields({ state, onStart }: { readonly state: StartState; readonly onStart: () => void }) {
  const { form, change, faults } = state;
  const { today } = useWho();
  const { data: clients } = useClients();
  const { data: templates } = useTemplates();
  const contacts = clients?.find((client) => client.id === form.clientId)?.contacts ?? [];
  return (
    <Form as="form" aria-label="New engagement" onSubmit={(event: { preventDefault: () => void }) => (event.preventDefault(), onStart())}>
      <Choose
        label="Client"
        choices={clients}
        value={form.clientId}
        onChange={(clientId) => change({ clientId, contactId: null })}
        error={faults['clientId']}
      />
      <AddClient onAdded={(clientId) => change({ clientId, contactId: null })} />
      {contacts.length === 0 ? null : (
        <Choose
          label="Contact"
          choices={contacts}
          value={form.contactId}
          onChange={(contactId) => change({ contactId })}
          placeholder="Nobody in particular"
          error={faults['contactId']}
        />
      )}
      {form.copyOf === null ? null : <CopyNote state={state} />}
      <Choose
        label={form.copyOf === null ? 'Template' : 'Or begin from a template'}
        choices={templates
          ?.filter((template) => template.kind === 'engagement')
          .map(({ id, name, taskCount, phases }) => ({
            id,
            name,
            detail: `${count(phases.length, 'phase')}, ${count(taskCount, 'task')}`,
          }))}
        value={form.templateId}
        onChange={(templateId) => change({ ...NOTHING_CHOSEN, templateId, copyOf: null })}
        error={faults['templateId']}
      />
      <Field
        label="Name"
        value={form.name}
        onChange={(name) => change({ name })}
        error={faults['name']}
        placeholder="What you call it among you"
      />
      <div style={{ margin: '2px 0 8px' }}>
        <Segmented
          label="Plan from"
          parts={[
            { id: 'start', name: 'From a start' },
            { id: 'promise', name: 'Back from a promise' },
          ]}
          value={form.from}
          onChange={(from) => change({ from })}
        />
      </div>
      {form.from === 'start' ? (
        <DayField label="First day" today={today} value={form.start} onChange={(start) => change({ start })} error={faults['start']} />
      ) : null}
      <DayField
        label={form.from === 'start' ? 'Promised date, if there is one' : 'Promised date'}
        today={today}
        value={form.promise}
        onChange={(promise) => change({ promise })}
        error={faults['promise'] ?? (state.problem?.code === 'promise-too-early' ? state.problem.message : undefined)}
      />
      <Button kind="primary" type="submit" isDisabled={state.making !== null}>
        Start it{state.run === undefined ? '' : ` with ${count(state.run.tasks.length, 'task')}`}
      </Button>
      {state.making === null ? null : <MakingNote making={state.making} />}
    </Form>
  );
}

/** A client that is new, added without leaving the form. */
function AddClient({ onAdded }: { readonly onAdded: (clientId: string) => void }) {
  const [name, setName] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string>();
  if (name === null) {
    return (
      <div style={{ margin: '-16px 0 6px -6px' }}>
        <Button kind="quiet" onPress={() => setName('')}>
          Add a client
        </Button>
      </div>
    );
  }
  const add = async (): Promise<void> => {
    const added = await perform({ send: () => call<{ id: string }>('POST', '/clients', { name }), onTrouble: setTrouble });
    if (!added.isDone) return;
    onAdded(added.answer.id);
    setName(null);
  };
  return (
    <div>
      <Field label="Name of the new client" value={name} onChange={setName} error={trouble} autoFocus />
      <Button isDisabled={name.trim() === ''} onPress={() => void add()}>
        Add the client
      </Button>
      <Button kind="quiet" onPress={() => setName(null)}>
        Not now
      </Button>
    </div>
  );
}
