import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A worker of the job queue and when it last said that it lives. */
@Entity('worker_heartbeat')
export class WorkerHeartbeat {
  @PrimaryColumn('text') workerId!: string;
  @Column('timestamptz') at!: Date;
}
