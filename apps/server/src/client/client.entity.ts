import { CLIENT_HUE } from '@crew/contract';
import { Check, Column, Entity, Unique } from 'typeorm';
import { Agency } from '../agency/agency.entity.ts';
import { Choice, Key, oneOf, Ref } from '../platform/columns.ts';

/** An organisation we work for; in-house work has the agency itself as its client. */
@Entity('client')
@Unique('client_name_once', ['agencyId', 'name'])
@Check('client_hue_known', oneOf('hue', CLIENT_HUE))
export class Client {
  @Key() id!: string;
  @Ref(() => Agency, { onDelete: 'CASCADE' }) agencyId!: string;
  @Column('text') name!: string;
  @Choice() hue!: string;
  @Column('boolean', { default: false }) isOwn!: boolean;
  @Column('integer', { default: 1 }) version!: number;
}

/** Somebody at a client; `clientId` is the main one. */
@Entity('contact')
export class Contact {
  @Key() id!: string;
  @Ref(() => Client, { onDelete: 'CASCADE', isIndexed: true }) clientId!: string;
  @Column('text') name!: string;
  @Column('text') initials!: string;
  @Column('text') email!: string;
  @Column('text', { default: '' }) phone!: string;
  @Column('text', { default: '' }) notes!: string;
  @Column('boolean', { default: true }) isActive!: boolean;
  @Column('integer', { default: 1 }) version!: number;
}

/** A further client of a contact. */
@Entity('contact_client')
export class ContactClient {
  @Ref(() => Contact, { onDelete: 'CASCADE', isKey: true }) contactId!: string;
  @Ref(() => Client, { onDelete: 'CASCADE', isKey: true, isIndexed: true }) clientId!: string;
}
