import type { CrewPerson, EngagementRoleLine, GiveRole } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { useCrew, useEngagementRoles } from '../../api/queries.ts';
import { Choose } from '../../ui/Field.tsx';
import { ErrorNote, Loading, Muted } from '../../ui/layout.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { count, hourWords } from '../../words/format.ts';
import { ApplyPart, applyAt } from './ApplyPart.tsx';

const NOBODY = 'nobody';

const Lines = styled.div`
  display: flex;
  flex-direction: column;
  gap: 9px;
`;

const OpenWork = styled(Muted)`
  margin-top: 4px;
`;

interface HoldersProps {
  readonly engagementId: string;
  /** Only this role; all that the engagement needs, when it is left out. */
  readonly roleId?: string;
}

/** Who does the work of each role in an engagement. Reassigning a role moves its open tasks, after a preview of the load. */
export function RoleHolders({ engagementId, roleId }: HoldersProps) {
  const { data: all, error } = useEngagementRoles(engagementId);
  const people = useCrew().data?.people;
  if (error !== undefined) return <ErrorNote error={error} />;
  if (all === undefined || people === undefined) return <Loading rows={2} />;
  const lines = all.filter(({ role }) => roleId === undefined || role.id === roleId);
  return (
    <SheetPart>
      <h3>{roleId === undefined ? 'Who does what' : 'Who does it'}</h3>
      {lines.length === 0 ? <Muted>No roles are needed here.</Muted> : null}
      <Lines>
        {lines.map((line) => (
          <RoleHolder key={`${line.role.id} ${line.person?.id ?? NOBODY}`} {...{ engagementId, line, people }} />
        ))}
      </Lines>
    </SheetPart>
  );
}

function RoleHolder({
  engagementId,
  line: { role, person, tasks, minutes },
  people,
}: {
  readonly engagementId: string;
  readonly line: EngagementRoleLine;
  readonly people: readonly CrewPerson[];
}) {
  const [chosen, setChosen] = useState(person?.id ?? NOBODY);
  const name = people.find(({ id }) => id === chosen)?.name ?? 'nobody';
  const able = people.filter((one) => one.roleIds.includes(role.id) || one.id === person?.id);
  const body: GiveRole = { roleId: role.id, personId: chosen === NOBODY ? null : chosen, seen: person?.id ?? null };
  const path = `/engagements/${engagementId}/roles`;
  return (
    <div>
      <Choose label={role.name} isTight choices={[{ id: NOBODY, name: 'Unassigned' }, ...able]} value={chosen} onChange={setChosen} />
      <OpenWork>{tasks === 0 ? 'no open tasks' : `${count(tasks, 'open task')} · ${hourWords(minutes)}`}</OpenWork>
      {chosen === (person?.id ?? NOBODY) ? null : (
        <ApplyPart
          ask={{ path: `${path}/preview`, body }}
          apply={() => applyAt(path, body)}
          action={chosen === NOBODY ? `Unassign ${role.name}` : `Assign ${role.name} to ${name}`}
          said={chosen === NOBODY ? `${role.name} is now unassigned here.` : `${name} is now ${role.name} here.`}
          onApplied={() => undefined}
          onCancel={() => setChosen(person?.id ?? NOBODY)}
        />
      )}
    </div>
  );
}
