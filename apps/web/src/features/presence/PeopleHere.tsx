import { can, type PersonRef, type PresenceKind } from '@crew/contract';
import styled from 'styled-components';
import { usePeopleHere } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { PersonMark } from '../../ui/marks.tsx';

const Quiet = styled.span`
  display: inline-flex;
  align-items: center;
  gap: 4px;
  font-size: 12px;
  color: var(--ink-2);
  white-space: nowrap;
`;

/** More than these are a number. */
const MOST_SHOWN = 4;

/** Who else looks at an engagement or a task at this moment; nothing while one is alone. */
export function PeopleHere({ kind, id }: { readonly kind: PresenceKind; readonly id: string }) {
  return can(useWho(), 'presence.use') ? <Others kind={kind} id={id} /> : null;
}

function Others({ kind, id }: { readonly kind: PresenceKind; readonly id: string }) {
  const people = usePeopleHere(kind, id).data?.people ?? [];
  if (people.length === 0) return null;
  const more = people.length - MOST_SHOWN;
  return (
    <Quiet data-screen-only title={`${namesOf(people)} ${people.length === 1 ? 'has' : 'have'} this open too`}>
      Also here
      {people.slice(0, MOST_SHOWN).map((person) => (
        <PersonMark key={person.id} person={person} />
      ))}
      {more > 0 ? `+${more}` : null}
    </Quiet>
  );
}

const namesOf = (people: readonly PersonRef[]): string => people.map(({ name }) => name).join(', ');
