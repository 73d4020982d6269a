import { SECURITY_KIND, type SecurityKind } from '@crew/contract';
import { Check, Column, Entity, Index, PrimaryGeneratedColumn } from 'typeorm';
import { Agency } from '../agency/agency.entity.ts';
import { Choice, oneOf, Ref } from '../platform/columns.ts';
import { Account } from './account.entity.ts';

/** A line of the security log. It names people as they were called then, and addresses that belong to nobody. */
@Entity('security_event')
@Check('security_event_kind_known', oneOf('kind', SECURITY_KIND))
@Index('security_event_of_agency', ['agencyId', 'id'])
export class SecurityEvent {
  @PrimaryGeneratedColumn('identity', { type: 'bigint' }) id!: number;
  @Ref(() => Agency, { onDelete: 'CASCADE' }) agencyId!: string;
  @Ref(() => Account, { onDelete: 'SET NULL', isIndexed: true }) accountId!: string | null;
  @Choice() kind!: SecurityKind;
  /** Whom it concerns: a name, or the address that was tried. */
  @Column('text') whom!: string;
  /** Who did it, where it was somebody else. */
  @Column('text', { nullable: true }) by!: string | null;
  @Column('timestamptz') at!: Date;
  @Column('text') ip!: string;
  @Column('text') device!: string;
  @Column('text', { default: '' }) note!: string;
}
