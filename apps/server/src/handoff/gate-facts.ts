import { evaluateGate, type CheckResult, type GateCheck, type GateFacts } from '@crew/core';
import type { CheckKind } from '@crew/contract';
import { isOpen } from '../platform/sql-words.ts';

/** A check of a gate as it stands in the tables. */
export interface CheckRow {
  readonly id: string;
  readonly kind: CheckKind;
  readonly text: string;
  readonly isGiven: boolean;
  readonly givenBy: string | null;
}

/** What the gate of a phase is judged by. */
export interface GateRow {
  readonly checks: readonly CheckRow[];
  readonly open: readonly Pick<GateFacts['tasks'][number], 'title' | 'isClientTask'>[];
}

/** SQL: the gate of the phase with this alias, as one document. What repeats beside the plan holds no gate. */
export const gateOf = (phase: string): string => `json_build_object(
    'checks', coalesce((SELECT json_agg(json_build_object('id', k.id, 'kind', k.kind, 'text', k.text, 'isGiven', k.given_at IS NOT NULL, 'givenBy', (SELECT w.name FROM person w WHERE w.id = k.given_by_id)) ORDER BY k.position)
      FROM gate_check k WHERE k.phase_id = ${phase}.id), '[]'),
    'open', coalesce((SELECT json_agg(json_build_object('title', o.title, 'isClientTask', o.kind = 'client') ORDER BY o.position, o.number)
      FROM task o WHERE o.phase_id = ${phase}.id AND o.series_id IS NULL AND NOT o.is_group AND ${isOpen('o')}), '[]'))`;

/** What the core says of each check, in their order. */
export function judgeGate({ checks, open }: GateRow): readonly CheckResult[] {
  const asked = checks.map(({ id, kind, isGiven }): GateCheck => (kind === 'word' ? { id, kind, isGiven } : { id, kind }));
  return evaluateGate(asked, { tasks: open.map((task) => ({ ...task, isOpen: true })) });
}
