import { Column, CreateDateColumn, Entity, Index, PrimaryColumn } from 'typeorm';
import { Ref } from './columns.ts';
import type { KeptValue } from './request-context.ts';

/** A request that was carried out, so that it is not carried out again; kept for a day. */
@Entity('idempotency_key')
@Index('idempotency_key_by_age', ['at'])
export class IdempotencyKey {
  @Ref('Account', { onDelete: 'CASCADE', isKey: true }) accountId!: string;
  @PrimaryColumn('text') key!: string;
  /** What was asked, as a sum of method, address and body. */
  @Column('text') request!: string;
  /** What its transaction answered. */
  @Column('jsonb', { default: {} }) value!: KeptValue;
  @CreateDateColumn({ type: 'timestamptz' }) at!: Date;
}
