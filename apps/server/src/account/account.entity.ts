import { Check, Column, Entity, Unique } from 'typeorm';
import { Agency } from '../agency/agency.entity.ts';
import { Contact } from '../client/client.entity.ts';
import { Person } from '../crew/crew.entity.ts';
import { Key, Ref } from '../platform/columns.ts';

/** A sign-in. It belongs to one of the crew or to a client's contact, never to both. */
@Entity('account')
@Check('account_belongs_to_one', '("person_id" IS NULL) <> ("contact_id" IS NULL)')
@Check('account_email_is_lower_case', 'email = lower(email)')
@Unique('account_email_once', ['email'])
export class Account {
  @Key() id!: string;
  @Ref(() => Agency, { onDelete: 'CASCADE' }) agencyId!: string;
  @Column('text') email!: string;
  /** None until somebody who was invited has chosen a password. */
  @Column('text', { nullable: true }) passwordHash!: string | null;
  /** Hints and lists of first steps that were closed, by name. */
  @Column('text', { array: true, default: '{}' }) closedHints!: string[];
  @Ref(() => Person, { onDelete: 'CASCADE', isOptional: true, isIndexed: true }) personId!: string | null;
  @Ref(() => Contact, { onDelete: 'CASCADE', isOptional: true, isIndexed: true }) contactId!: string | null;
}
