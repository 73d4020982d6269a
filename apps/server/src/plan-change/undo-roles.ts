import type { FieldKept } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import type { NewEvent } from '../activity/record.ts';
import { readRoleHolder, setRoleHolder } from '../engagement/role-holder.ts';
import { namesOf } from './give-role.ts';
import type { BatchEvent } from './undo-change.ts';

/** Gives roles back to whoever had them, where nobody was given them since. */
export async function undoRoles(
  manager: EntityManager,
  engagementId: string,
  events: readonly BatchEvent[],
): Promise<{ readonly events: readonly NewEvent[]; readonly kept: readonly Omit<FieldKept, 'by'>[] }> {
  const undone: NewEvent[] = [];
  const kept: Omit<FieldKept, 'by'>[] = [];
  for (const { kind, payload, changes } of events) {
    const [change] = changes;
    if (kind !== 'role-given' || change === undefined) continue;
    const { roleId, name } = payload as { readonly roleId: string; readonly name: string };
    const back = change.from as string | null;
    if ((await readRoleHolder(manager, { engagementId, roleId })) !== change.to) {
      kept.push({ subjectId: engagementId, title: name, field: 'roleHolder' });
      continue;
    }
    await setRoleHolder(manager, { engagementId, roleId, personId: back });
    undone.push({
      ...{ kind: 'role-given', engagementId, subject: 'engagement', subjectId: engagementId, payload: { roleId, name } },
      ...{
        changes: [{ field: 'roleHolder', from: change.to, to: back }],
        names: await namesOf(manager, [change.to as string | null, back]),
      },
    });
  }
  return { events: undone, kept };
}
