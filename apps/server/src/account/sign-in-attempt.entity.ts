import { Column, Entity, PrimaryColumn } from 'typeorm';

/** Wrong passwords tried for an address since its owner last signed in; also for addresses nobody has, or it would tell which exist. */
@Entity('sign_in_attempt')
export class SignInAttempt {
  @PrimaryColumn('text') email!: string;
  @Column('int') wrong!: number;
  @Column('timestamptz') since!: Date;
  /** Until then nobody can try again. */
  @Column('timestamptz') until!: Date;
}
