import { EditContact, type ClientSheet, type ContactEdited, type ContactView } from '@crew/contract';
import { useEffect, useState } from 'react';
import styled from 'styled-components';
import { call, currentOf } from '../../api/client.ts';
import { useClients } from '../../api/queries.ts';
import { perform, performOrThrow } from '../../session/perform.ts';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { SmallForm } from '../../ui/form/SmallForm.tsx';
import { useInputForm, type InputForm } from '../../ui/form/use-input-form.ts';
import { Muted } from '../../ui/layout.tsx';
import { Tag } from '../../ui/marks.tsx';
import { Sheet, SheetPart, SheetTitle } from '../../ui/Sheet.tsx';
import { count } from '../../words/format.ts';

const Tags = styled.ul`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  margin-bottom: 8px;
  li {
    display: flex;
    align-items: center;
    gap: 2px;
  }
`;

const Links = styled.p`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  margin-bottom: 10px;
`;

interface ContactProps {
  readonly contact: ContactView;
  readonly client: ClientSheet;
  readonly mayEdit: boolean;
  readonly onClose: () => void;
}

/** A contact: how to reach them, of which clients, notes, and what they can see. */
export function ContactSheet({ contact, client, mayEdit, onClose }: ContactProps) {
  return (
    <Sheet label="Contact" line={client.name} onClose={onClose}>
      <SheetTitle>{contact.name}</SheetTitle>
      <Links>
        <a href={`mailto:${contact.email}`}>{contact.email}</a>
        {contact.phone === '' ? null : <a href={`tel:${contact.phone.replaceAll(' ', '')}`}>{contact.phone}</a>}
      </Links>
      {mayEdit ? <ContactFields key={contact.id} contact={contact} /> : contact.notes === '' ? null : <p>{contact.notes}</p>}
      <SheetPart>
        <h3>What they can see</h3>
        <p>{seesWords(contact, client)}</p>
      </SheetPart>
      {mayEdit ? <Leaving contact={contact} /> : null}
    </Sheet>
  );
}

/** Without a sign-in nobody sees anything; with one, what is marked for the client. */
function seesWords({ name, hasSignIn, isActive, clients }: ContactView, client: ClientSheet): string {
  if (!isActive) return `${name} is deactivated and cannot sign in.`;
  if (!hasSignIn) return `Nothing yet: ${name} cannot sign in.`;
  const open = client.engagements.filter(({ state }) => state === 'open' || state === 'proposal');
  const shown = open.reduce((sum, { shownTasks }) => sum + shownTasks, 0);
  const others = clients.length > 1 ? `, and those of ${count(clients.length - 1, 'other client')}` : '';
  return `Can sign in and see ${count(open.length, 'open engagement')} of ${client.name} with ${count(shown, 'task')} marked for the client${others}.`;
}

interface Typed {
  readonly name: string;
  readonly email: string;
  readonly phone: string;
  readonly notes: string;
  readonly clientIds: readonly string[];
  /** The version the form was filled from, whatever others do meanwhile. */
  readonly version: number;
}

const typedOf = ({ name, email, phone, notes, clients, version }: ContactView): Typed => ({
  ...{ name, email, phone, notes, version },
  clientIds: clients.map(({ id }) => id),
});

function ContactFields({ contact }: { readonly contact: ContactView }) {
  const [theirs, setTheirs] = useState<ContactView | null>(null);
  const form = useInputForm<Typed, EditContact>({
    rules: EditContact,
    typed: typedOf(contact),
    input: ({ name, email, phone, notes, clientIds, version }) => ({
      ...{ version, name: name.trim(), email: email.trim(), phone: phone.trim(), notes: notes.trim() },
      clientIds: [...clientIds],
    }),
    send: async (input) => {
      try {
        const saved = await performOrThrow({
          send: () => call<ContactEdited>('PATCH', `/contacts/${contact.id}`, input),
          said: ({ contact: { name } }) => `${name} saved.`,
          undo: ({ changeId }) => changeId,
        });
        setTheirs(null);
        form.reset(typedOf(saved.contact));
      } catch (error) {
        const current = currentOf<ContactView>(error);
        if (current === null) throw error;
        setTheirs(current);
      }
    },
  });
  // Undone, or changed by somebody else while nothing is typed here: the fields follow.
  const isBehind = !form.isDirty && theirs === null && contact.version > form.values.version;
  useEffect(() => {
    if (isBehind) form.reset(typedOf(contact));
  }, [isBehind, form, contact]);
  return (
    <SmallForm form={form} action="Save">
      <Field {...form.bind('name')} label="Name" />
      <Field {...form.bind('email')} label="Mail address" type="email" />
      <Field {...form.bind('phone')} label="Phone" type="tel" />
      <ClientsOfContact form={form} />
      <Field {...form.bind('notes')} label="Internal notes" isLong />
      {theirs === null ? null : (
        <Both
          theirs={theirs}
          onKeepMine={() => {
            form.set({ version: theirs.version });
            form.submit();
          }}
          onUseTheirs={() => {
            form.reset(typedOf(theirs));
            setTheirs(null);
          }}
        />
      )}
    </SmallForm>
  );
}

interface BothProps {
  readonly theirs: ContactView;
  readonly onKeepMine: () => void;
  readonly onUseTheirs: () => void;
}

/** Somebody saved this contact meanwhile: what they wrote, and the choice between both. */
function Both({ theirs, onKeepMine, onUseTheirs }: BothProps) {
  return (
    <SheetPart role="alert">
      <p>
        Somebody changed this contact since you opened it. Now: {theirs.name}, {theirs.email}, {theirs.phone || 'no phone'}.
      </p>
      <Button onPress={onKeepMine}>Keep my version</Button> <Button onPress={onUseTheirs}>Use their version</Button>
    </SheetPart>
  );
}

/** The clients somebody is a contact of; the first is the main one. */
function ClientsOfContact({ form }: { readonly form: InputForm<Typed> }) {
  const { data: clients } = useClients();
  const { clientIds } = form.values;
  const nameOf = (id: string): string => clients?.find((client) => client.id === id)?.name ?? '…';
  return (
    <div>
      <Tags aria-label="Clients">
        {clientIds.map((id) => (
          <li key={id}>
            <Tag>{nameOf(id)}</Tag>
            {clientIds.length === 1 ? null : (
              <Button
                kind="quiet"
                aria-label={`Remove ${nameOf(id)}`}
                onPress={() => form.set({ clientIds: clientIds.filter((other) => other !== id) })}
              >
                ✕
              </Button>
            )}
          </li>
        ))}
      </Tags>
      <Choose
        label="Add to another client"
        placeholder="Choose a client"
        choices={clients?.filter(({ id, isOwn }) => !isOwn && !clientIds.includes(id)).map(({ id, name }) => ({ id, name }))}
        value={null}
        onChange={(id) => form.set({ clientIds: [...clientIds, id] })}
        error={form.bind('clientIds').error}
      />
    </div>
  );
}

/** Contacts are archived, not deleted: finished work names them. */
function Leaving({ contact: { id, name, version, isActive } }: { readonly contact: ContactView }) {
  const turn = (): void =>
    void perform({
      send: () => call<ContactEdited>('PATCH', `/contacts/${id}`, { version, isActive: !isActive }),
      said: isActive ? `${name} is deactivated and cannot sign in.` : `${name} is reactivated.`,
      undo: ({ changeId }) => changeId,
    });
  return (
    <SheetPart aria-label="Leaving">
      <h3>{isActive ? 'Leaving' : 'Left'}</h3>
      <Muted as="p">Past work still shows their name.</Muted>
      <Button onPress={turn}>{isActive ? 'Deactivate' : 'Reactivate'}</Button>
    </SheetPart>
  );
}
