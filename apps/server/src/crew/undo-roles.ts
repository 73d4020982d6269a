import { Injectable } from '@nestjs/common';
import { can, type EventKind } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import type { EventToUndo, UndoesOwn, WentBack } from '../activity/undoable.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { KeepRoles } from './keep-roles.ts';

export const ROLE_EVENTS: readonly EventKind[] = ['role-added', 'role-renamed', 'role-removed'];

/** Undoes what a change did to roles. A role that was added and is in use by now stays. */
@Injectable()
export class UndoRoles implements UndoesOwn {
  private readonly roles: KeepRoles;
  constructor(roles: KeepRoles) {
    this.roles = roles;
  }

  async run(manager: EntityManager, who: Who, events: readonly EventToUndo[]): Promise<WentBack> {
    if (!can(who, 'role.edit')) throw new Refusal('not-allowed', 'Only a lead can undo this. Ask one of them.');
    const kept: WentBack['kept'][number][] = [];
    let isAny = false;
    for (const { kind, subjectId, changes, payload } of events) {
      const id = payload['roleId'] as string;
      const now = await this.roles.find(manager, who, id);
      const { from, to } = changes[0] as { readonly from: string | null; readonly to: string | null };
      if (kind === 'role-removed' && now === null) await this.roles.addIn(manager, who, { id, name: from as string });
      else if (kind === 'role-renamed' && now?.name === to)
        await this.roles.renameIn(manager, who, { role: now as { id: string; name: string }, name: from as string });
      else if (!(kind === 'role-added' && now !== null && (await this.roles.deleteIn(manager, who, now)))) {
        if (now !== null) kept.push({ subjectId, title: now.name, field: 'name' });
        continue;
      }
      isAny = true;
    }
    return { isAny, kept };
  }
}
