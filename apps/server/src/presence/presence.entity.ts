import { PRESENCE_KIND } from '@crew/contract';
import { Check, Column, Entity, Index, PrimaryColumn } from 'typeorm';
import { Agency } from '../agency/agency.entity.ts';
import { Person } from '../crew/crew.entity.ts';
import { Choice, oneOf, Ref } from '../platform/columns.ts';

/** That a window of somebody shows a thing, as it last said so. */
@Entity('presence')
@Check('presence_kind_known', oneOf('kind', PRESENCE_KIND))
@Index('presence_at', ['subjectId'])
export class Presence {
  @Ref(() => Person, { onDelete: 'CASCADE', isKey: true }) personId!: string;
  @PrimaryColumn('text') windowId!: string;
  @PrimaryColumn('uuid') subjectId!: string;
  @Choice() kind!: string;
  @Ref(() => Agency, { onDelete: 'CASCADE', isIndexed: true }) agencyId!: string;
  @Column('timestamptz') seenAt!: Date;
}
