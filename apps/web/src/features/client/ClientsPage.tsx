import { can, hasEveryWord, type ClientSummary } from '@crew/contract';
import { useState } from 'react';
import { Link } from 'react-aria-components';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import { useClients } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { FormButton } from '../../ui/form/SmallForm.tsx';
import { Empty, ErrorNote, Fixed, Loading, Muted, Page, PageHead, Panel, Push } from '../../ui/layout.tsx';
import { LongList } from '../../ui/LongList.tsx';
import { HueMark } from '../../ui/marks.tsx';
import { phone } from '../../ui/tokens.ts';
import { count } from '../../words/format.ts';
import { NewClientForm } from './NewClientForm.tsx';

const Row = styled.div`
  position: relative;
  display: grid;
  grid-template-columns: minmax(0, 1.2fr) minmax(0, 1.6fr) 150px;
  gap: 14px;
  align-items: center;
  min-height: 50px;
  padding: 6px 14px;
  border-bottom: 1px solid var(--line-2);
  &:hover {
    background: var(--sunk);
  }
  ${phone} {
    grid-template-columns: minmax(0, 1fr);
    gap: 3px;
  }
`;
const Name = styled.span`
  display: flex;
  align-items: center;
  gap: 10px;
  min-width: 0;
`;
const RowLink = styled(Link)`
  font-weight: 600;
  text-decoration: none;
  &::after {
    content: '';
    position: absolute;
    inset: 0;
  }
`;

/** All clients, with their contacts. */
export function ClientsPage() {
  const me = useWho();
  const { data: clients, error } = useClients();
  const [typed, setTyped] = useState('');
  const shown = clients?.filter((client) => hasEveryWord(wordsOf(client), typed));
  return (
    <Page>
      <PageHead>
        <h1>Clients</h1>
        {clients === undefined ? null : <Muted>{count(clients.filter(({ isOwn }) => !isOwn).length, 'client')}</Muted>}
        <Push />
        <Fixed $width={220}>
          <Field
            {...{ label: '', isTight: true, 'aria-label': 'Search clients' }}
            placeholder="Search clients"
            value={typed}
            onChange={setTyped}
          />
        </Fixed>
        {can(me, 'client.edit') ? <NewClient /> : null}
      </PageHead>
      {error ? (
        <ErrorNote error={error} />
      ) : shown === undefined ? (
        <Loading rows={8} />
      ) : (
        <Panel>
          {shown.length === 0 ? (
            <Empty title={typed === '' ? 'No clients yet.' : 'No client matches.'} />
          ) : (
            <LongList label="Clients" items={shown} keyOf={({ id }) => id} rowHeight={51}>
              {(client) => <ClientRow client={client} />}
            </LongList>
          )}
        </Panel>
      )}
    </Page>
  );
}

const wordsOf = ({ name, contacts }: ClientSummary): string => [name, ...contacts.map((contact) => contact.name)].join(' ');

function ClientRow({ client }: { readonly client: ClientSummary }) {
  return (
    <Row>
      <Name>
        <HueMark $hue={client.hue} $height={26} />
        <RowLink href={`/clients/${client.id}`}>{client.name}</RowLink>
      </Name>
      <Muted>{client.isOwn ? 'our agency' : client.contacts.map(({ name }) => name).join(', ') || 'no contacts yet'}</Muted>
      <Muted>{client.open === 0 ? 'nothing open' : `${client.open} open`}</Muted>
    </Row>
  );
}

function NewClient() {
  const navigate = useNavigate();
  return (
    <FormButton button={<Button kind="primary">New client…</Button>} label="New client">
      {() => <NewClientForm onAdded={(id) => void navigate(`/clients/${id}`)} />}
    </FormButton>
  );
}
