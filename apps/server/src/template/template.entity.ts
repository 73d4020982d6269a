import { ANCHOR_AT, CHECK_KIND, DEPENDENCY_TYPE, PRIORITY, TASK_KIND, TEMPLATE_KIND, PHASE_EDGE } from '@crew/contract';
import type { TemplateContent, TemplateTask as TemplateTaskContent } from '@crew/core';
import { Check, Column, Entity, PrimaryColumn, Unique } from 'typeorm';
import { Account } from '../account/account.entity.ts';
import { Agency } from '../agency/agency.entity.ts';
import { Person, Role } from '../crew/crew.entity.ts';
import { Choice, Key, oneOf, Ref } from '../platform/columns.ts';

/** A reusable engagement, phase or task. A phase template has one phase, a task template one phase with one task. */
@Entity('template')
@Unique('template_name_once', ['agencyId', 'kind', 'name'])
@Check('template_kind_known', oneOf('kind', TEMPLATE_KIND))
export class Template {
  @Key() id!: string;
  @Ref(() => Agency, { onDelete: 'CASCADE' }) agencyId!: string;
  @Choice() kind!: string;
  @Column('text') name!: string;
  @Column('text', { default: '' }) description!: string;
  /** The newest version: what engagements start from. The rows below it are the working copy, which may be ahead. */
  @Column('int', { default: 1 }) version!: number;
  /** Counts saves of the working copy: a stale one is told. */
  @Column('int', { default: 1 }) revision!: number;
  /** Whether the working copy differs from the newest version. */
  @Column('boolean', { default: false }) isChanged!: boolean;
  @Column('boolean', { default: false }) isArchived!: boolean;
}

/** A version as it was kept; it never changes again. */
@Entity('template_version')
@Check('template_version_positive', '"version" > 0')
export class TemplateVersion {
  @Ref(() => Template, { onDelete: 'CASCADE', isKey: true }) templateId!: string;
  @PrimaryColumn('int') version!: number;
  @Column('jsonb') content!: TemplateContent;
  @Column('text', { default: '' }) note!: string;
  @Column('timestamptz') madeAt!: Date;
  @Ref(() => Account, { onDelete: 'SET NULL' }) madeById!: string | null;
}

@Entity('template_phase')
@Unique('template_phase_state_line_once', ['templateId', 'stateLine'])
@Check('template_phase_edge_known', oneOf('after_edge', PHASE_EDGE))
@Check('template_phase_rounds_positive', '"rounds" IS NULL OR "rounds" > 0')
export class TemplatePhase {
  @Key() id!: string;
  @Ref(() => Template, { onDelete: 'CASCADE', isIndexed: true }) templateId!: string;
  @Column('int') position!: number;
  @Column('text') name!: string;
  @Ref(() => Role, { onDelete: 'RESTRICT', isOptional: true }) roleId!: string | null;
  @Column('text') stateLine!: string;
  @Ref(() => TemplatePhase, { onDelete: 'CASCADE', isOptional: true }) afterPhaseId!: string | null;
  @Choice({ default: 'finish' }) afterEdge!: string;
  @Column('int', { default: 0 }) afterLag!: number;
  @Column('int', { nullable: true }) rounds!: number | null;
  /** The template of the library it was taken from. */
  @Ref(() => Template, { onDelete: 'SET NULL', isIndexed: true }) sourceTemplateId!: string | null;
}

@Entity('template_task')
@Check('template_task_not_its_own_part', '"parent_id" <> "id"')
@Check('template_task_kind_known', oneOf('kind', TASK_KIND))
@Check('template_task_anchor_known', oneOf('anchor_at', ANCHOR_AT))
@Check('template_task_priority_known', oneOf('priority', PRIORITY))
@Check('template_task_days_not_negative', '"days" >= 0')
@Check('template_task_estimate_not_negative', '"estimate_minutes" IS NULL OR "estimate_minutes" >= 0')
export class TemplateTask {
  @Key() id!: string;
  @Ref(() => TemplatePhase, { onDelete: 'CASCADE', isIndexed: true }) phaseId!: string;
  @Column('int') position!: number;
  /** The task it is a part of. */
  @Ref(() => TemplateTask, { onDelete: 'CASCADE', isOptional: true }) parentId!: string | null;
  @Column('text') title!: string;
  @Column('text', { default: '' }) description!: string;
  @Choice({ default: 'work' }) kind!: string;
  /** A certain person, whoever holds the role. */
  @Ref(() => Person, { onDelete: 'SET NULL' }) personId!: string | null;
  @Column('uuid', { array: true, default: '{}' }) helperRoleIds!: string[];
  @Column('uuid', { array: true, default: '{}' }) helperPersonIds!: string[];
  @Column('text', { array: true, default: '{}' }) labels!: string[];
  @Column('text', { nullable: true }) deliverable!: string | null;
  @Column('jsonb', { default: [] }) pageLinks!: TemplateTaskContent['pageLinks'];
  @Column('jsonb', { default: [] }) customFields!: TemplateTaskContent['customFields'];
  @Column('jsonb', { nullable: true }) outside!: TemplateTaskContent['outside'];
  @Ref(() => Role, { onDelete: 'RESTRICT', isOptional: true }) roleId!: string | null;
  @Column('int', { nullable: true }) estimateMinutes!: number | null;
  @Column('int') days!: number;
  @Choice({ default: 'phase-start' }) anchorAt!: string;
  @Column('int', { default: 0 }) anchorOffset!: number;
  @Choice({ default: 'normal' }) priority!: string;
  @Column('boolean', { default: false }) isShownToClient!: boolean;
  @Column('boolean', { default: true }) isChargeable!: boolean;
  /** The template of the library it was taken from by itself. */
  @Ref(() => Template, { onDelete: 'SET NULL', isIndexed: true }) sourceTemplateId!: string | null;
}

@Entity('template_step')
export class TemplateStep {
  @Key() id!: string;
  @Ref(() => TemplateTask, { onDelete: 'CASCADE', isIndexed: true }) taskId!: string;
  @Column('int') position!: number;
  @Column('text') title!: string;
}

/** The successor waits for the predecessor, by type and lag in open days. */
@Entity('template_dependency')
@Check('template_dependency_type_known', oneOf('type', DEPENDENCY_TYPE))
@Check('template_dependency_not_to_itself', '"predecessor_id" <> "successor_id"')
export class TemplateDependency {
  @Ref(() => TemplateTask, { onDelete: 'CASCADE', isKey: true })
  successorId!: string;
  @Ref(() => TemplateTask, { onDelete: 'CASCADE', isIndexed: true, isKey: true })
  predecessorId!: string;
  @Choice({ default: 'FS' }) type!: string;
  @Column('int', { default: 0 }) lag!: number;
}

/** A way out of a task: back to an earlier one, or to an ending. */
@Entity('template_way')
@Check('template_way_leads_somewhere', '("to_id" IS NULL) <> ("ending" IS NULL)')
export class TemplateWay {
  @Key() id!: string;
  @Ref(() => Template, { onDelete: 'CASCADE', isIndexed: true }) templateId!: string;
  @Column('int') position!: number;
  @Ref(() => TemplateTask, { onDelete: 'CASCADE', isIndexed: true }) fromId!: string;
  @Ref(() => TemplateTask, { onDelete: 'CASCADE', isOptional: true, isIndexed: true }) toId!: string | null;
  @Column('text', { nullable: true }) ending!: string | null;
  @Column('text') reason!: string;
}

/** One check of the gate at the end of a phase. */
@Entity('template_check')
@Check('template_check_kind_known', oneOf('kind', CHECK_KIND))
export class TemplateCheck {
  @Key() id!: string;
  @Ref(() => TemplatePhase, { onDelete: 'CASCADE', isIndexed: true }) phaseId!: string;
  @Column('int') position!: number;
  @Choice() kind!: string;
  @Column('text') text!: string;
  /** Titles of tasks, the name of a custom field, or the ending of files. */
  @Column('text', { array: true, default: [] }) wants!: string[];
}
