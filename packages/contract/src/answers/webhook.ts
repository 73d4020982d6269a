import type { EventKind } from '../events.ts';

/* Webhooks. Times are ISO instants. */

export interface WebhookLine {
  readonly id: string;
  readonly version: number;
  readonly name: string;
  readonly url: string;
  readonly kinds: readonly EventKind[];
  readonly isOn: boolean;
  readonly failed: number;
  readonly lastSentAt: string | null;
}

/** A webhook as it stands after a change; `changeId` undoes it, and is null when nothing changed. */
export interface WebhookSaved {
  readonly webhook: WebhookLine;
  readonly changeId: string | null;
}

/** With the secret its calls are signed with: shown only now. */
export interface WebhookAdded {
  readonly webhook: WebhookLine;
  readonly secret: string;
}

export interface WebhookDelivery {
  readonly id: string;
  readonly at: string;
  readonly webhook: { readonly id: string; readonly name: string };
  readonly kind: string;
  readonly state: 'waiting' | 'sent' | 'undeliverable';
  readonly tries: number;
  /** The last HTTP status answered; null when there was no answer. */
  readonly status: number | null;
  readonly trouble: string | null;
  /** What is sent, as JSON. */
  readonly body: string;
}

export interface WebhookDeliveries {
  /** The newest first, at most 100. */
  readonly deliveries: readonly WebhookDelivery[];
  readonly undeliverable: number;
}
