import { AddWebhook, WEBHOOK_EVENTS, type EventKind, type WebhookAdded, type WebhookLine, type WebhookSaved } from '@crew/contract';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { performOrThrow } from '../../session/perform.ts';
import { Field } from '../../ui/Field.tsx';
import { SmallForm } from '../../ui/form/SmallForm.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { Tick } from '../../ui/Tick.tsx';
import { kindWords } from './kind-words.ts';

const Kinds = styled.fieldset`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: 2px 14px;
  margin: 0 0 6px;
  padding: 0;
  border: 0;
  legend {
    padding: 0 0 4px;
    font-size: 12px;
    font-weight: 600;
    color: var(--ink-2);
  }
`;

interface WebhookFormProps {
  /** Null for a new one. */
  readonly webhook: WebhookLine | null;
  readonly onCancel: () => void;
  readonly onAdded: (added: WebhookAdded) => void;
}

/** A webhook: its name, where it is, and what it is told of. */
export function WebhookForm({ webhook, onCancel, onAdded }: WebhookFormProps) {
  const typed = { name: webhook?.name ?? '', url: webhook?.url ?? 'https://', kinds: [...(webhook?.kinds ?? [])] as EventKind[] };
  const form = useInputForm({
    rules: AddWebhook,
    typed,
    input: ({ name, url, kinds }) => ({ name: name.trim(), url: url.trim(), kinds }),
    send: async (input) => {
      if (webhook === null)
        return onAdded(
          await performOrThrow({ send: () => call<WebhookAdded>('POST', '/webhooks', input), said: `Webhook “${input.name}” added.` }),
        );
      await performOrThrow({
        send: () => call<WebhookSaved>('PATCH', `/webhooks/${webhook.id}`, { version: webhook.version, ...input }),
        said: `Webhook “${input.name}” saved.`,
        undo: ({ changeId }) => changeId,
      });
      onCancel();
    },
  });
  const { kinds } = form.values;
  const toggle = (kind: EventKind, isTold: boolean): void =>
    form.set({ kinds: isTold ? [...kinds, kind] : kinds.filter((one) => one !== kind) });
  return (
    <SmallForm form={form} action={webhook === null ? 'Add webhook' : 'Save webhook'} onCancel={onCancel} label="Webhook">
      <Field {...form.bind('name')} label="Name" autoFocus />
      <Field {...form.bind('url')} label="Address" type="url" />
      <Kinds>
        <legend>Events (none: called by rules only)</legend>
        {WEBHOOK_EVENTS.map((kind) => (
          <Tick key={kind} isSelected={kinds.includes(kind)} onChange={(isTold) => toggle(kind, isTold)}>
            {kindWords(kind)}
          </Tick>
        ))}
      </Kinds>
    </SmallForm>
  );
}
