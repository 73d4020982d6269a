import { OWN_FIELD_KIND, type OwnFieldKind } from '@crew/core';
import { Check, Column, Entity, Unique } from 'typeorm';
import { Agency } from '../agency/agency.entity.ts';
import { Choice, Key, oneOf, Ref } from '../platform/columns.ts';

/** A field the agency has thought of itself; tasks and templates hold values for it by its id. */
@Entity('own_field')
@Unique('own_field_name_once', ['agencyId', 'name'])
@Check('own_field_kind_known', oneOf('kind', OWN_FIELD_KIND))
export class OwnField {
  @Key() id!: string;
  @Ref(() => Agency, { onDelete: 'CASCADE' }) agencyId!: string;
  @Column('int') position!: number;
  @Column('text') name!: string;
  @Choice() kind!: OwnFieldKind;
  @Column('text', { array: true, default: '{}' }) choices!: string[];
  @Column('boolean', { default: false }) isRetired!: boolean;
}
