import { CUSTOM_FIELD_KIND, type CustomFieldKind } from '@crew/core';
import { Check, Column, Entity, Unique } from 'typeorm';
import { Agency } from '../agency/agency.entity.ts';
import { Choice, Key, oneOf, Ref } from '../platform/columns.ts';

/** A field the agency has added; tasks and templates hold values for it by its id. */
@Entity('custom_field')
@Unique('custom_field_name_once', ['agencyId', 'name'])
@Check('custom_field_kind_known', oneOf('kind', CUSTOM_FIELD_KIND))
export class CustomField {
  @Key() id!: string;
  @Ref(() => Agency, { onDelete: 'CASCADE' }) agencyId!: string;
  @Column('int') position!: number;
  @Column('text') name!: string;
  @Choice() kind!: CustomFieldKind;
  @Column('text', { array: true, default: '{}' }) choices!: string[];
  @Column('boolean', { default: false }) isArchived!: boolean;
}
