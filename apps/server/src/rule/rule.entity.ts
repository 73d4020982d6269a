import { RULE_LEVEL, type Effect, type HeldWhy, type RuleLevel } from '@crew/core';
import { EFFECT_STATE, RUN_STATE, type EffectState, type RuleContent, type RunState } from '@crew/contract';
import { Check, Column, Entity, Index, JoinColumn, ManyToOne, PrimaryColumn } from 'typeorm';
import { Agency } from '../agency/agency.entity.ts';
import { Engagement } from '../engagement/engagement.entity.ts';
import { Choice, Key, oneOf, Ref } from '../platform/columns.ts';
import { Template } from '../template/template.entity.ts';

/** "When … happens, if …, then …": for the whole agency, one template or one engagement. */
@Entity('rule')
@Check('rule_level_known', oneOf('level', RULE_LEVEL))
@Check(
  'rule_has_its_place',
  `("level" = 'template') = ("template_id" IS NOT NULL) AND ("level" = 'engagement') = ("engagement_id" IS NOT NULL)`,
)
@Index('rule_of_agency', ['agencyId'], { where: '"removed_at" IS NULL' })
export class Rule {
  @Key() id!: string;
  @Ref(() => Agency, { onDelete: 'CASCADE' }) agencyId!: string;
  @Choice() level!: RuleLevel;
  @Ref(() => Template, { onDelete: 'CASCADE', isOptional: true, isIndexed: true }) templateId!: string | null;
  @Ref(() => Engagement, { onDelete: 'CASCADE', isOptional: true, isIndexed: true }) engagementId!: string | null;
  /** Among the rules of its place. */
  @Column('int') position!: number;
  @Column('boolean', { default: true }) isOn!: boolean;
  /** Since when it is on; what happened before does not concern it. */
  @Column('timestamptz') onSince!: Date;
  @Column('jsonb') content!: RuleContent;
  /** The rule it stands instead of where it holds. */
  @Ref(() => Rule, { onDelete: 'SET NULL' }) replacesId!: string | null;
  @Column('int', { default: 1 }) version!: number;
  /** A removed rule stays for the log of what it did. */
  @Column('timestamptz', { nullable: true }) removedAt!: Date | null;
}

/** That a rule does not hold in the engagements of one template, or in one engagement. */
@Entity('rule_exception')
@Check('rule_exception_has_one_place', '("template_id" IS NULL) <> ("engagement_id" IS NULL)')
@Index('rule_exception_once', ['ruleId', 'templateId', 'engagementId'], { unique: true })
export class RuleException {
  @Key() id!: string;
  @Ref(() => Rule, { onDelete: 'CASCADE' }) ruleId!: string;
  @Ref(() => Template, { onDelete: 'CASCADE', isOptional: true, isIndexed: true }) templateId!: string | null;
  @Ref(() => Engagement, { onDelete: 'CASCADE', isOptional: true, isIndexed: true }) engagementId!: string | null;
}

/** That a rule ran at an event, or why it was held: decided once for each, by the follower of events. */
@Entity('rule_run')
@Check('rule_run_state_known', oneOf('state', RUN_STATE))
@Index('rule_run_once', ['eventId', 'ruleId'], { unique: true })
@Index('rule_run_of_rule', ['ruleId', 'eventId'])
@Index('rule_run_of_agency', ['agencyId', 'eventId'])
@Index('rule_run_open', ['eventId'], { where: `"state" = 'waiting'` })
export class RuleRun {
  @Key() id!: string;
  @Ref(() => Agency, { onDelete: 'CASCADE' }) agencyId!: string;
  @Ref(() => Rule, { onDelete: 'CASCADE' }) ruleId!: string;
  @Column('bigint') eventId!: string;
  @ManyToOne('Event', { onDelete: 'CASCADE', nullable: false })
  @JoinColumn({ name: 'event_id' })
  event!: unknown;
  @Ref(() => Engagement, { onDelete: 'CASCADE', isOptional: true, isIndexed: true }) engagementId!: string | null;
  /** Among the rules of its event. */
  @Column('int') position!: number;
  @Choice() state!: RunState;
  @Choice({ nullable: true }) why!: HeldWhy | null;
  /** Of one that was held by a condition: which of those written, from 0; null for what its "when" asks. */
  @Column('int', { nullable: true }) failedAt!: number | null;
  /** How many rules led to its event; and which have run for which subject in that chain, with this one. */
  @Column('int') depth!: number;
  @Column('jsonb') chain!: readonly (readonly [rule: string, subject: string])[];
}

/** One effect of a run. Its row is the claim on it: whoever sets it done does it, in the same transaction. */
@Entity('rule_effect')
@Check('rule_effect_state_known', oneOf('state', EFFECT_STATE))
export class RuleEffect {
  @Ref(() => RuleRun, { onDelete: 'CASCADE', isKey: true }) runId!: string;
  @PrimaryColumn('int') place!: number;
  /** As the core answered it, with its texts filled. */
  @Column('jsonb') effect!: Effect;
  @Choice({ default: 'waiting' }) state!: EffectState;
  /** What came of it, or why it failed. */
  @Column('text', { default: '' }) said!: string;
  @Column('int', { default: 0 }) tries!: number;
  /** What it did in the history. */
  @Column('uuid', { nullable: true }) changeId!: string | null;
  @Column('timestamptz', { nullable: true }) doneAt!: Date | null;
}

/**
 * That something rules wait for was reached: a date so many working days away, or a share of the planned
 * effort. `reached` is the date it was reached for: with another date it can be reached again.
 */
@Entity('rule_mark')
export class RuleMark {
  @PrimaryColumn('uuid') subjectId!: string;
  @PrimaryColumn('text') what!: string;
  @PrimaryColumn('int') amount!: number;
  @PrimaryColumn('text') reached!: string;
  @Ref(() => Engagement, { onDelete: 'CASCADE', isIndexed: true }) engagementId!: string;
}
