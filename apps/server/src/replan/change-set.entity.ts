import { Column, Entity, Index } from 'typeorm';
import { Account } from '../account/account.entity.ts';
import { Agency } from '../agency/agency.entity.ts';
import { Engagement } from '../engagement/engagement.entity.ts';
import { Key, Ref } from '../platform/columns.ts';
import type { PhasesChanged } from './phase-images.ts';
import type { TaskImage } from './task-images.ts';

/** A change of a plan that was taken: the tasks it touched as they were and as it left them, so that it can be undone. */
@Entity('change_set')
@Index('change_set_by_engagement', ['engagementId', 'at'])
@Index('change_set_joint', ['jointId'], { where: '"joint_id" IS NOT NULL' })
export class ChangeSet {
  @Key() id!: string;
  @Ref(() => Agency, { onDelete: 'CASCADE' }) agencyId!: string;
  @Ref(() => Engagement, { onDelete: 'CASCADE' }) engagementId!: string;
  /** The first of the changes it was taken together with, across engagements; they are undone together. */
  @Column('uuid', { nullable: true }) jointId!: string | null;
  @Ref(() => Account, { onDelete: 'SET NULL' }) accountId!: string | null;
  @Column('timestamptz') at!: Date;
  @Column('jsonb') before!: readonly TaskImage[];
  @Column('jsonb') after!: readonly TaskImage[];
  /** The row of phases, when it was changed too. */
  @Column('jsonb', { nullable: true }) phases!: PhasesChanged | null;
  @Column('timestamptz', { nullable: true }) undoneAt!: Date | null;
}
