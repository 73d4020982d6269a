import type { EventKind } from '@crew/contract';
import { Check, Column, Entity, Index } from 'typeorm';
import { Agency } from '../agency/agency.entity.ts';
import { Choice, Key, oneOf, Ref } from '../platform/columns.ts';

/** A program somewhere that is told of events, or called by rules. The secret its calls are signed by is kept sealed. */
@Entity('webhook')
export class Webhook {
  @Key() id!: string;
  @Ref(() => Agency, { onDelete: 'CASCADE', isIndexed: true }) agencyId!: string;
  @Column('text') name!: string;
  @Column('text') url!: string;
  @Column('text', { array: true }) kinds!: EventKind[];
  @Column('text') sealedSecret!: string;
  @Column('boolean', { default: true }) isOn!: boolean;
  /** One that was removed is not told or called any more; undoing brings it back. */
  @Column('timestamptz', { nullable: true }) removedAt!: Date | null;
  @Column('int', { default: 1 }) version!: number;
}

/** One call of a webhook; asked for once under its key. */
@Entity('webhook_delivery')
@Check('webhook_delivery_state_known', oneOf('state', ['waiting', 'sent', 'undeliverable']))
@Index('webhook_delivery_once', ['webhookId', 'key'], { unique: true })
@Index('webhook_delivery_by_time', ['webhookId', 'createdAt'])
export class WebhookDelivery {
  @Key() id!: string;
  @Ref(() => Webhook, { onDelete: 'CASCADE' }) webhookId!: string;
  @Column('text') key!: string;
  @Column('text') kind!: string;
  /** As it is sent and signed, to the letter. */
  @Column('text') body!: string;
  @Choice({ default: 'waiting' }) state!: string;
  @Column('int', { default: 0 }) tries!: number;
  @Column('int', { nullable: true }) status!: number | null;
  @Column('text', { nullable: true }) trouble!: string | null;
  @Column('timestamptz') createdAt!: Date;
  @Column('timestamptz', { nullable: true }) sentAt!: Date | null;
}
