import { evaluateGate, type CheckResult, type GateCheck, type GateTask } from '@crew/core';
import type { CheckKind } from '@crew/contract';
import { isOpen } from '../platform/sql-words.ts';

/** A check of a gate as it stands in the tables. */
export interface CheckRow {
  readonly id: string;
  readonly kind: CheckKind;
  readonly text: string;
  readonly wants: readonly string[];
  readonly isGiven: boolean;
  readonly givenBy: string | null;
}

/** What the gate of a phase is judged by. */
export interface GateRow {
  readonly checks: readonly CheckRow[];
  readonly open: readonly Pick<GateTask, 'title' | 'isClientTask'>[];
  /** Every task with what only some checks ask for; empty where none does. */
  readonly whole: readonly GateTask[];
}

/** What asks for more of tasks than whether they are over. */
const DETAILED = ['titled-done', 'steps-done', 'field-filled', 'files-there'] as const;
const isDetailed = (kind: CheckKind): boolean => (DETAILED as readonly CheckKind[]).includes(kind);

/** SQL: the gate of the phase with this alias, as one document. What repeats beside the plan holds no gate. */
export const gateOf = (phase: string): string => `json_build_object(
    'checks', coalesce((SELECT json_agg(json_build_object('id', k.id, 'kind', k.kind, 'text', k.text, 'wants', k.wants, 'isGiven', k.given_at IS NOT NULL, 'givenBy', (SELECT w.name FROM person w WHERE w.id = k.given_by_id)) ORDER BY k.position)
      FROM gate_check k WHERE k.phase_id = ${phase}.id), '[]'),
    'open', coalesce((SELECT json_agg(json_build_object('title', o.title, 'isClientTask', o.kind = 'client') ORDER BY o.position, o.number)
      FROM task o WHERE o.phase_id = ${phase}.id AND o.series_id IS NULL AND NOT o.is_group AND ${isOpen('o')}), '[]'),
    'whole', CASE WHEN EXISTS (SELECT 1 FROM gate_check k WHERE k.phase_id = ${phase}.id AND k.kind IN (${DETAILED.map((kind) => `'${kind}'`).join(', ')}))
      THEN coalesce((SELECT json_agg(json_build_object('title', o.title, 'isOpen', ${isOpen('o')}, 'isClientTask', o.kind = 'client',
          'openSteps', (SELECT count(*)::int FROM step s WHERE s.task_id = o.id AND NOT s.is_done),
          'fields', ARRAY(SELECT f.name FROM jsonb_array_elements(o.custom_fields) x JOIN custom_field f ON f.id = (x->>'fieldId')::uuid WHERE coalesce(x->>'value', '') <> ''),
          'files', ARRAY(SELECT f.name FROM task_file x JOIN file f ON f.id = x.file_id WHERE x.task_id = o.id)) ORDER BY o.position, o.number)
        FROM task o WHERE o.phase_id = ${phase}.id AND o.series_id IS NULL AND NOT o.is_group AND o.status <> 'dropped'), '[]') ELSE '[]' END)`;

/** What the core says of each check, in their order. */
export function judgeGate({ checks, open, whole }: GateRow): readonly CheckResult[] {
  const asked = checks.map(({ id, kind, wants, isGiven }): GateCheck => {
    if (kind === 'word') return { id, kind, isGiven };
    return kind === 'tasks-done' || kind === 'client-done' || kind === 'steps-done' ? { id, kind } : { id, kind, wants };
  });
  const tasks = checks.some(({ kind }) => isDetailed(kind)) ? whole : open.map((task) => ({ ...task, isOpen: true }));
  return evaluateGate(asked, { tasks });
}
