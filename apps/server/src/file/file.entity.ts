import { Check, Column, Entity, Index } from 'typeorm';
import { Agency } from '../agency/agency.entity.ts';
import { Person } from '../crew/crew.entity.ts';
import { Key, Ref } from '../platform/columns.ts';

/** A file. Its content is on the disk under its hash; files of the same content share it. */
@Entity('file')
@Check('file_bytes_not_negative', '"bytes" >= 0')
@Index('file_by_content', ['sha256'])
export class StoredFile {
  @Key() id!: string;
  @Ref(() => Agency, { onDelete: 'CASCADE' }) agencyId!: string;
  @Column('text') name!: string;
  /** The media type the sender named; never trusted to be shown in our pages. */
  @Column('text') type!: string;
  @Column('int') bytes!: number;
  @Column('text') sha256!: string;
  @Column('timestamptz') addedAt!: Date;
  @Ref(() => Person, { onDelete: 'SET NULL' }) addedById!: string | null;
}

/** A file at hand for a task. */
@Entity('task_file')
export class TaskFile {
  @Ref('Task', { onDelete: 'CASCADE', isKey: true }) taskId!: string;
  @Ref(() => StoredFile, { onDelete: 'RESTRICT', isIndexed: true, isKey: true }) fileId!: string;
  @Column('int') position!: number;
}

/** A file that comes along with a task of a template. */
@Entity('template_task_file')
export class TemplateTaskFile {
  @Ref('TemplateTask', { onDelete: 'CASCADE', isKey: true }) taskId!: string;
  @Ref(() => StoredFile, { onDelete: 'RESTRICT', isIndexed: true, isKey: true }) fileId!: string;
  @Column('int') position!: number;
}
