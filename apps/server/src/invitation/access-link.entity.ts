import { ACCESS_LINK_KIND, type AccessLinkKind } from '@crew/contract';
import { Check, Column, Entity } from 'typeorm';
import { Choice, Key, oneOf, Ref } from '../platform/columns.ts';
import { Account } from '../account/account.entity.ts';

/** A link by which somebody chooses a password, once: because they were invited, or have forgotten it. Of an account's links the newest counts. */
@Entity('access_link')
@Check('access_link_kind_known', oneOf('kind', ACCESS_LINK_KIND))
export class AccessLink {
  @Key() id!: string;
  @Ref(() => Account, { onDelete: 'CASCADE', isIndexed: true }) accountId!: string;
  @Choice() kind!: AccessLinkKind;
  @Column('timestamptz') createdAt!: Date;
  @Column('timestamptz') expiresAt!: Date;
  @Column('timestamptz', { nullable: true }) usedAt!: Date | null;
  @Column('timestamptz', { nullable: true }) withdrawnAt!: Date | null;
}
