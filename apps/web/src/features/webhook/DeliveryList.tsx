import type { WebhookDelivery } from '@crew/contract';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useWebhookDeliveries } from '../../api/queries.ts';
import { perform } from '../../session/perform.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Empty, ErrorNote, Inline, Loading, Muted, Panel, PanelHead, Push } from '../../ui/layout.tsx';
import { Toned } from '../../ui/text.tsx';
import { count, instantWords } from '../../words/format.ts';

const Line = styled.li`
  padding: 8px 14px;
  border-top: 1px solid var(--line-2);
  pre {
    margin: 4px 0 0;
    padding: 8px 10px;
    border-radius: 6px;
    background: var(--sunk);
    white-space: pre-wrap;
    overflow-wrap: anywhere;
    font-size: 12px;
  }
`;

const STATE_WORDS: Readonly<Record<WebhookDelivery['state'], string>> = {
  ...{ waiting: 'being sent', sent: 'taken', undeliverable: 'not delivered' },
};

/** What programs were told, the newest first; what could not be delivered is sent again. */
export function DeliveryList() {
  const { data, error } = useWebhookDeliveries();
  return (
    <Panel aria-label="Calls">
      <PanelHead>
        <h2>Calls</h2>
        <Muted>the last hundred</Muted>
      </PanelHead>
      {data === undefined ? (
        error === undefined ? (
          <Loading rows={4} />
        ) : (
          <ErrorNote error={error} />
        )
      ) : data.deliveries.length === 0 ? (
        <Empty title="Nothing was sent yet." />
      ) : (
        <ul>
          {data.deliveries.map((delivery) => (
            <DeliveryLine key={delivery.id} delivery={delivery} />
          ))}
        </ul>
      )}
    </Panel>
  );
}

function DeliveryLine({ delivery: { id, at, webhook, kind, state, tries, trouble, body } }: { readonly delivery: WebhookDelivery }) {
  const me = useWho();
  return (
    <Line>
      <Inline>
        <span>{instantWords(at, me)}</span>
        <strong>{webhook.name}</strong>
        <span>{kind}</span>
        <Toned $tone={state === 'undeliverable' ? 'bad' : state === 'sent' ? 'good' : 'quiet'}>
          {STATE_WORDS[state]}
          {tries > 1 ? `, tried ${count(tries, 'time')}` : ''}
        </Toned>
        {trouble === null ? null : <Muted>{trouble}</Muted>}
        <Push />
        {state === 'undeliverable' ? (
          <Button
            kind="quiet"
            onPress={() => void perform({ send: () => call('POST', `/webhooks/deliveries/${id}/retry`), said: 'It is sent again.' })}
          >
            Send again
          </Button>
        ) : null}
      </Inline>
      <details>
        <summary>What was sent</summary>
        <pre>{body}</pre>
      </details>
    </Line>
  );
}
