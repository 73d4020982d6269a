import { CHECK_KIND, HANDOFF_STATE, type HandoffPacket } from '@crew/contract';
import { Check, Column, Entity, Index } from 'typeorm';
import { Person } from '../crew/crew.entity.ts';
import { Engagement, Phase } from '../engagement/engagement.entity.ts';
import { Choice, Key, oneOf, Ref } from '../platform/columns.ts';

/** A packet, and when it was kept; the oldest were kept without decisions and questions. */
export type KeptPacket = Omit<HandoffPacket, 'decisions' | 'questions'> &
  Partial<Pick<HandoffPacket, 'decisions' | 'questions'>> & { readonly at: string };

/** The passing of an engagement from one phase to the next; the last one closes it. */
@Entity('handoff')
@Check('handoff_state_known', oneOf('state', HANDOFF_STATE))
@Check('handoff_has_receiver', `"state" = 'getting-ready' OR "receiver_id" IS NOT NULL`)
@Index('handoff_joint_once', ['fromPhaseId', 'toPhaseId'], { unique: true })
@Index('handoff_sent_back', ['giverId'], { where: `"state" = 'sent-back'` })
@Index('handoff_open', ['engagementId'], { where: `"state" <> 'picked-up'` })
@Index('handoff_in_flight', ['receiverId'], { where: `"state" = 'handed-off'` })
export class Handoff {
  @Key() id!: string;
  @Ref(() => Engagement, { onDelete: 'CASCADE', isIndexed: true }) engagementId!: string;
  @Ref(() => Phase, { onDelete: 'CASCADE' }) fromPhaseId!: string;
  @Ref(() => Phase, { onDelete: 'CASCADE', isOptional: true, isIndexed: true }) toPhaseId!: string | null;
  @Choice({ default: 'getting-ready' }) state!: string;
  @Ref(() => Person, { onDelete: 'SET NULL' }) giverId!: string | null;
  @Ref(() => Person, { onDelete: 'RESTRICT', isOptional: true }) receiverId!: string | null;
  @Column('text', { default: '' }) words!: string;
  /** Why a lead passed a gate that was not clear. */
  @Column('text', { nullable: true }) reason!: string | null;
  @Column('text', { nullable: true }) question!: string | null;
  @Column('timestamptz', { nullable: true }) since!: Date | null;
  /** Since when the gate of the phase it closes is clear; empty while it is not, and for a gate without checks. */
  @Column('timestamptz', { nullable: true }) clearSince!: Date | null;
  /** On whose desk it was put because it can be handed off. */
  @Column('uuid', { array: true, default: [] }) readyForIds!: string[];
  /** What went along when it was handed off, as it was then. */
  @Column('jsonb', { nullable: true }) packet!: KeptPacket | null;
  @Column('int', { default: 1 }) version!: number;
}

/** One check of a phase's gate. Only whether a person confirmed it is stored; the rest is computed. */
@Entity('gate_check')
@Check('gate_check_kind_known', oneOf('kind', CHECK_KIND))
@Check('gate_check_word_has_giver', '("given_by_id" IS NULL) = ("given_at" IS NULL)')
export class GateCheck {
  @Key() id!: string;
  @Ref(() => Phase, { onDelete: 'CASCADE', isIndexed: true }) phaseId!: string;
  @Column('int') position!: number;
  @Choice() kind!: string;
  @Column('text') text!: string;
  /** Titles of tasks, the name of a custom field, or the ending of files. */
  @Column('text', { array: true, default: [] }) wants!: string[];
  @Ref(() => Person, { onDelete: 'RESTRICT', isOptional: true }) givenById!: string | null;
  @Column('timestamptz', { nullable: true }) givenAt!: Date | null;
}
