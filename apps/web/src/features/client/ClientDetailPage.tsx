import { can, CLIENT_HUE, type ClientEdited, type ClientSheet, type EditClient } from '@crew/contract';
import { Link } from 'react-aria-components';
import { useParams } from 'react-router';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useClient } from '../../api/queries.ts';
import { useOpenSheet } from '../../session/open-sheet.ts';
import { perform } from '../../session/perform.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Choose } from '../../ui/Field.tsx';
import { Empty, ErrorNote, Fixed, Loading, Muted, Page, PageHead, Panel, PanelHead, Push, WithSheet } from '../../ui/layout.tsx';
import { HueMark, PersonMark } from '../../ui/marks.tsx';
import { RowButton } from '../../ui/RowButton.tsx';
import { Sheet, SheetTitle } from '../../ui/Sheet.tsx';
import { TextCell } from '../../ui/TextCell.tsx';
import { phone } from '../../ui/tokens.ts';
import { count, shortDay } from '../../words/format.ts';
import { ContactSheet } from './ContactSheet.tsx';
import { NewContactForm } from './ContactForm.tsx';
import { FoldedHistory } from '../history/FoldedHistory.tsx';

const Row = styled.li<{ $isOpen?: boolean; $isGone?: boolean }>`
  position: relative;
  display: grid;
  grid-template-columns: 30px minmax(0, 1fr) minmax(0, 1.2fr) 130px 110px;
  gap: 12px;
  align-items: center;
  min-height: 48px;
  padding: 6px 14px;
  border-top: 1px solid var(--line-2);
  background: ${({ $isOpen = false }) => ($isOpen ? 'var(--petrol-soft)' : 'transparent')};
  > :first-child {
    justify-self: start;
  }
  > * {
    opacity: ${({ $isGone = false }) => ($isGone ? 0.72 : 1)};
  }
  ${phone} {
    grid-template-columns: 30px minmax(0, 1fr);
    gap: 2px 10px;
    > :nth-child(n + 3) {
      grid-column: 2;
    }
  }
`;
const Work = styled(Row)`
  grid-template-columns: minmax(0, 1fr) 170px 190px;
  ${phone} {
    grid-template-columns: minmax(0, 1fr);
    > :nth-child(n + 2) {
      grid-column: 1;
    }
  }
`;
const Title = styled.h1`
  display: flex;
  align-items: center;
  gap: 10px;
`;

const CLIENT_SHEETS = { things: ['contact'], named: ['new'] } as const;

/** One client: its contacts, and what is done for it. */
export function ClientDetailPage() {
  const { id = '' } = useParams();
  const { data: client, error } = useClient(id);
  if (error && client === undefined) return <Page>{<ErrorNote error={error} />}</Page>;
  if (client === undefined) return <Page>{<Loading rows={10} />}</Page>;
  return <LoadedClient key={id} client={client} />;
}

function LoadedClient({ client }: { readonly client: ClientSheet }) {
  const me = useWho();
  const mayEdit = can(me, 'client.edit');
  const [sheet, openSheet] = useOpenSheet(CLIENT_SHEETS);
  const opened = client.contacts.find(({ id }) => id === sheet?.id) ?? null;
  const isNew = sheet?.kind === 'new' && mayEdit;
  const close = (): void => openSheet(null);
  return (
    <Page>
      <ClientHead client={client} mayEdit={mayEdit} onNew={() => openSheet({ kind: 'new' })} />
      <WithSheet $isOpen={opened !== null || isNew}>
        <div>
          <Contacts client={client} opened={opened?.id ?? null} onOpen={(id) => openSheet({ kind: 'contact', id })} />
          <Engagements client={client} />
          <FoldedHistory subject="client" id={client.id} />
        </div>
        {opened !== null ? (
          <ContactSheet {...{ client, mayEdit }} contact={opened} onClose={close} />
        ) : isNew ? (
          <Sheet label="New contact" line={client.name} onClose={close}>
            <SheetTitle>New contact</SheetTitle>
            <NewContactForm clientId={client.id} onAdded={({ id }) => openSheet({ kind: 'contact', id })} onCancel={close} />
          </Sheet>
        ) : null}
      </WithSheet>
    </Page>
  );
}

interface HeadProps {
  readonly client: ClientSheet;
  readonly mayEdit: boolean;
  readonly onNew: () => void;
}

function ClientHead({ client, mayEdit, onNew }: HeadProps) {
  const save = (change: Omit<EditClient, 'version'>, said: string): void =>
    void perform({
      send: () => call<ClientEdited>('PATCH', `/clients/${client.id}`, { version: client.version, ...change }),
      said,
      undo: ({ changeId }) => changeId,
    });
  return (
    <PageHead>
      <Title>
        <HueMark $hue={client.hue} $height={26} />
        {mayEdit ? (
          <TextCell
            label="Name of the client"
            isFitted
            value={client.name}
            onSave={(text) => {
              const name = text.trim();
              if (name === '') return false;
              if (name !== client.name) save({ name }, `Client renamed to “${name}”.`);
              return true;
            }}
          />
        ) : (
          client.name
        )}
      </Title>
      <Push />
      {mayEdit && !client.isOwn ? (
        <>
          <Fixed $width={130}>
            <Choose
              {...{ label: 'Client colour', isLabelHidden: true, isTight: true, value: client.hue }}
              choices={CLIENT_HUE.filter((hue) => hue !== 'slate').map((id) => ({ id, name: id.slice(0, 1).toUpperCase() + id.slice(1) }))}
              onChange={(hue) => save({ hue }, 'Client colour changed.')}
            />
          </Fixed>
          <Button kind="primary" onPress={onNew}>
            New contact…
          </Button>
        </>
      ) : null}
    </PageHead>
  );
}

interface ContactsProps {
  readonly client: ClientSheet;
  readonly opened: string | null;
  readonly onOpen: (contactId: string) => void;
}

function Contacts({ client: { contacts, isOwn }, opened, onOpen }: ContactsProps) {
  if (isOwn && contacts.length === 0) return null;
  return (
    <Panel as="section" aria-label="Contacts" $space="below">
      <PanelHead>
        <h2>Contacts</h2>
      </PanelHead>
      {contacts.length === 0 ? (
        <Empty title="No contacts yet.">
          <p>Contacts are people at this client: who you call, who answers questions, who can sign in to follow progress.</p>
        </Empty>
      ) : (
        <ul>
          {contacts.map((contact) => (
            <Row key={contact.id} $isOpen={contact.id === opened} $isGone={!contact.isActive}>
              <PersonMark person={contact} />
              <div>
                <RowButton aria-expanded={contact.id === opened} onPress={() => onOpen(contact.id)}>
                  {contact.name}
                </RowButton>
              </div>
              <Muted>{contact.email}</Muted>
              <Muted>{contact.phone}</Muted>
              <Muted>{!contact.isActive ? 'left' : contact.hasSignIn ? 'can sign in' : 'no sign-in'}</Muted>
            </Row>
          ))}
        </ul>
      )}
    </Panel>
  );
}

const STATE_WORDS = { proposal: 'proposal', open: 'open', finished: 'finished', dropped: 'closed' } as const;

function Engagements({ client: { engagements } }: { readonly client: ClientSheet }) {
  const { today } = useWho();
  return (
    <Panel as="section" aria-label="Engagements">
      <PanelHead>
        <h2>Engagements</h2>
        <Muted>{count(engagements.length, 'engagement')}</Muted>
      </PanelHead>
      {engagements.length === 0 ? (
        <Empty title="No engagements for this client yet." />
      ) : (
        <ul>
          {engagements.map(({ id, name, state, promise, closedOn, shownTasks }) => (
            <Work key={id}>
              <Link href={`/engagements/${id}`}>{name}</Link>
              <Muted>
                {closedOn === null
                  ? `${STATE_WORDS[state]}${promise === null ? '' : ` · promised ${shortDay(promise, today)}`}`
                  : `${STATE_WORDS[state]} ${shortDay(closedOn, today)}`}
              </Muted>
              <Muted>{shownTasks === 0 ? 'no tasks shown to client' : `${count(shownTasks, 'task')} shown to client`}</Muted>
            </Work>
          ))}
        </ul>
      )}
    </Panel>
  );
}
