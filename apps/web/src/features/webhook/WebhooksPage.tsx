import type { ChangeMade, WebhookAdded, WebhookLine, WebhookSaved } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useWebhooks } from '../../api/queries.ts';
import { perform } from '../../session/perform.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Empty, ErrorNote, Inline, Loading, Muted, Page, PageHead, Panel, PanelBody, PanelHead, Push } from '../../ui/layout.tsx';
import { Toned } from '../../ui/text.tsx';
import { count, instantWords } from '../../words/format.ts';
import { DeliveryList } from './DeliveryList.tsx';
import { kindWords } from './kind-words.ts';
import { WebhookForm } from './WebhookForm.tsx';
import { FoldedHistory } from '../history/FoldedHistory.tsx';

const Line = styled.li`
  padding: 10px 14px;
  border-top: 1px solid var(--line-2);
  &:first-child {
    border-top: 0;
  }
  overflow-wrap: anywhere;
`;
const Secret = styled.code`
  display: block;
  margin: 6px 0;
  padding: 8px 10px;
  border-radius: 6px;
  background: var(--sunk);
  overflow-wrap: anywhere;
  user-select: all;
`;

/** Programs elsewhere that are told of events, and what they were told; for owners. */
export function WebhooksPage() {
  const { data, error } = useWebhooks();
  const [isAdding, setAdding] = useState(false);
  const [added, setAdded] = useState<WebhookAdded | null>(null);
  return (
    <Page>
      <PageHead>
        <h1>Webhooks</h1>
        <Push />
        <Button kind="primary" onPress={() => setAdding(true)}>
          New webhook…
        </Button>
      </PageHead>
      {added === null ? null : <SecretOnce added={added} onClose={() => setAdded(null)} />}
      {isAdding ? (
        <Panel $space="below" aria-label="New webhook">
          <PanelBody>
            <WebhookForm
              webhook={null}
              onCancel={() => setAdding(false)}
              onAdded={(next) => {
                setAdding(false);
                setAdded(next);
              }}
            />
          </PanelBody>
        </Panel>
      ) : null}
      <Panel $space="below" aria-label="Webhooks">
        {data === undefined ? (
          error === undefined ? (
            <Loading rows={3} />
          ) : (
            <ErrorNote error={error} />
          )
        ) : data.length === 0 ? (
          <Empty title="No webhooks yet.">
            A webhook sends what happens (a handoff, a status, a round) to a program of yours, signed. Rules can call it too.
          </Empty>
        ) : (
          <ul>
            {data.map((webhook) => (
              <WebhookItem key={`${webhook.id} ${webhook.version}`} webhook={webhook} />
            ))}
          </ul>
        )}
      </Panel>
      {data === undefined || data.length === 0 ? null : <DeliveryList />}
    </Page>
  );
}

/** The secret is shown once: nobody can read it again. */
function SecretOnce({ added: { webhook, secret }, onClose }: { readonly added: WebhookAdded; readonly onClose: () => void }) {
  return (
    <Panel $space="below" aria-label="Its secret">
      <PanelHead>
        <h2>The secret of {webhook.name}</h2>
        <Muted>shown only now: copy it to your program’s settings</Muted>
      </PanelHead>
      <PanelBody>
        <Secret>{secret}</Secret>
        <Button onPress={onClose}>Close</Button>
      </PanelBody>
    </Panel>
  );
}

function WebhookItem({ webhook }: { readonly webhook: WebhookLine }) {
  const me = useWho();
  const [isEditing, setEditing] = useState(false);
  const { id, version, name, url, kinds, isOn, failed, lastSentAt } = webhook;
  if (isEditing)
    return (
      <Line>
        <WebhookForm webhook={webhook} onCancel={() => setEditing(false)} onAdded={() => setEditing(false)} />
        <FoldedHistory subject="webhook" id={id} />
      </Line>
    );
  const switchTo = (next: boolean): void =>
    void perform({
      send: () => call<WebhookSaved>('PATCH', `/webhooks/${id}`, { version, isOn: next }),
      said: next ? `Webhook “${name}” switched on.` : `Webhook “${name}” switched off.`,
      undo: ({ changeId }) => changeId,
    });
  return (
    <Line>
      <Inline>
        <strong>{name}</strong>
        {isOn ? null : <Toned $tone="waiting">switched off</Toned>}
        {failed === 0 ? null : <Toned $tone="bad">{count(failed, 'call')} not delivered</Toned>}
        <Push />
        <Button kind="quiet" aria-label={`Edit ${name}`} onPress={() => setEditing(true)}>
          Edit
        </Button>
        <Button kind="quiet" aria-label={`${isOn ? 'Switch off' : 'Switch on'} ${name}`} onPress={() => switchTo(!isOn)}>
          {isOn ? 'Switch off' : 'Switch on'}
        </Button>
        <Button
          kind="quiet"
          aria-label={`Delete ${name}`}
          onPress={() =>
            void perform({
              send: () => call<ChangeMade>('DELETE', `/webhooks/${id}`),
              said: `${name} is deleted. Rules that call it say so when they run.`,
              undo: ({ changeId }) => changeId,
            })
          }
        >
          Delete
        </Button>
      </Inline>
      <Muted>{url}</Muted>
      <p>{kinds.length === 0 ? 'Called by rules only.' : `Sent when ${kinds.map(kindWords).join(', ')}.`}</p>
      {lastSentAt === null ? null : <Muted>Last sent {instantWords(lastSentAt, me)}.</Muted>}
    </Line>
  );
}
