import { Column, Entity } from 'typeorm';
import { Ref } from '../platform/columns.ts';
import { Account } from './account.entity.ts';

/** The second factor of an account: a secret shared with an authenticator app (TOTP, RFC 6238). It is in use once it is confirmed. */
@Entity('second_factor')
export class SecondFactor {
  @Ref(() => Account, { onDelete: 'CASCADE', isKey: true }) accountId!: string;
  @Column('text') sealedSecret!: string;
  @Column('timestamptz', { nullable: true }) confirmedAt!: Date | null;
  /** The time step of the last code that was used: no code is accepted twice. */
  @Column('int', { default: 0 }) lastStep!: number;
  /** The seed of the recovery codes; see `recovery-codes.ts`. */
  @Column('text', { default: '' }) sealedRecovery!: string;
  /** The recovery codes that were used, by their place in the list. */
  @Column('int', { array: true, default: '{}' }) recoveryUsed!: number[];
}
