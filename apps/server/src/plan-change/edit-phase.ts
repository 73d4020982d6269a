import { Injectable } from '@nestjs/common';
import type { EditPhase as Input, PhaseView, PlanChanged } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { engagementSeenBy } from '../platform/visible.ts';
import { ChangePlan } from './change-plan.ts';

const PHASE = `
  SELECT p.id, p.name, p.state_line AS "stateLine", p.state, p.role_id AS "roleId",
    coalesce((SELECT json_agg(json_build_object('id', k.id, 'kind', k.kind, 'text', k.text, 'wants', k.wants) ORDER BY k.position) FROM gate_check k WHERE k.phase_id = p.id), '[]') AS checks,
    ARRAY(SELECT t.title FROM task t WHERE t.phase_id = p.id AND NOT t.is_group AND t.status <> 'dropped' AND t.series_id IS NULL ORDER BY t.position, t.number) AS titles
  FROM phase p JOIN engagement e ON e.id = p.engagement_id WHERE p.id = $1`;

/** What of a phase can be edited while its engagement runs, field by field. */
const FIELDS = ['name', 'stateLine', 'roleId'] as const;

/** The phase of an engagement that runs: what it is called, where the client stands in it, who owns it, and its gate. */
@Injectable()
export class EditPhase {
  private readonly database: Database;
  private readonly plans: ChangePlan;
  constructor(database: Database, plans: ChangePlan) {
    this.database = database;
    this.plans = plans;
  }

  read(who: Who, phaseId: string): Promise<PhaseView> {
    return this.find(this.database.manager, who, phaseId);
  }

  /** All or nothing; undone as one change of the engagement's phases. */
  run(who: Who, phaseId: string, input: Input): Promise<PlanChanged> {
    return this.database.transaction(async (manager) => {
      const { id: engagementId } = requireFound(
        await firstRow<{ id: string }>(manager, 'SELECT engagement_id AS id FROM phase WHERE id = $1', [phaseId]),
        'phase',
      );
      const open = await this.plans.open(manager, who, engagementId);
      // Read once its engagement is locked: nobody changes it meanwhile.
      const now = await this.find(manager, who, phaseId);
      await requireRole(manager, who, input.roleId ?? null);
      refuseStale(now, input);
      const phase = {
        id: phaseId,
        name: (input.name ?? now.name).trim(),
        stateLine: (input.stateLine ?? now.stateLine).trim(),
        roleId: input.roleId === undefined ? now.roleId : input.roleId,
      };
      await refuseSameLine(manager, { phase, engagementId });
      const checks = (input.checks ?? now.checks).map(({ id, kind, text, wants }) => ({ id, kind, text: text.trim(), wants: wants ?? [] }));
      return this.plans.apply(manager, who, { open, edit: { operations: [{ kind: 'edit-phase', phase, checks }] } });
    });
  }

  private async find(manager: EntityManager, who: Who, phaseId: string): Promise<PhaseView> {
    const seen = engagementSeenBy(who, 2);
    return requireFound(await firstRow<PhaseView>(manager, `${PHASE} AND ${seen.sql}`, [phaseId, ...seen.values]), 'phase');
  }
}

/** What somebody else changed since it was read is not overwritten. */
function refuseStale(now: PhaseView, { seen, ...input }: Input): void {
  const other = FIELDS.find((field) => input[field] !== undefined && now[field] !== seen[field]);
  if (other !== undefined)
    throw new Refusal('changed-meanwhile', 'Somebody changed this phase since you opened it. Reload and check.', {
      details: { current: now },
    });
}

/** Two phases of an engagement with the same state line would not say where the client is. */
async function refuseSameLine(
  manager: EntityManager,
  { phase, engagementId }: { readonly phase: Pick<PhaseView, 'id' | 'stateLine'>; readonly engagementId: string },
): Promise<void> {
  const same = await firstRow<{ name: string }>(
    manager,
    'SELECT name FROM phase WHERE engagement_id = $1 AND id <> $2 AND lower(state_line) = lower($3) LIMIT 1',
    [engagementId, phase.id, phase.stateLine],
  );
  if (same !== null)
    throw new Refusal('already-there', `The phase “${same.name}” has this state line already. Say what is different about this one.`, {
      field: 'stateLine',
    });
}

async function requireRole(manager: EntityManager, who: Who, roleId: string | null): Promise<void> {
  if (roleId === null) return;
  const known = await rowsOf(manager, 'SELECT 1 FROM role WHERE id = $1 AND agency_id = $2', [roleId, who.agencyId]);
  if (known.length === 0)
    throw new Refusal('unknown-id', 'This role is not one of your agency. Choose from the list.', { field: 'roleId' });
}
