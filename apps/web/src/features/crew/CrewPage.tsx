import { CREW_ACCESS_WORDS, type CrewAccess, type CrewMember } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { useCrew, useCrewMembers } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { ErrorNote, Loading, Muted, Page, PageHead, Panel, Push, WithSheet, Inline } from '../../ui/layout.tsx';
import { PersonMark } from '../../ui/marks.tsx';
import { RowButton } from '../../ui/RowButton.tsx';
import { hiddenText, phone } from '../../ui/tokens.ts';
import { count, hours, hourWords } from '../../words/format.ts';
import { PersonSheet } from './PersonSheet.tsx';
import { WEEKDAYS } from '../../ui/form/week.ts';

const Row = styled.li<{ $isGone: boolean; $isOpen: boolean }>`
  position: relative;
  display: grid;
  grid-template-columns: 34px minmax(150px, 1fr) minmax(160px, 1.4fr) 200px 96px;
  gap: 14px;
  align-items: center;
  padding: 9px 14px;
  border-top: 1px solid var(--line-2);
  &:first-child {
    border-top: 0;
  }
  background: ${({ $isOpen }) => ($isOpen ? 'var(--petrol-soft)' : 'transparent')};
  &:hover {
    background: ${({ $isOpen }) => ($isOpen ? 'var(--petrol-soft)' : 'var(--sunk)')};
  }
  > * {
    opacity: ${({ $isGone }) => ($isGone ? 0.72 : 1)};
  }
  small {
    display: block;
    color: var(--ink-2);
    font-size: 12px;
  }
  ${phone} {
    grid-template-columns: 34px minmax(0, 1fr);
    gap: 4px 10px;
    > :nth-child(n + 3) {
      grid-column: 2;
      text-align: left;
    }
  }
`;
/** Seven columns as high as the day is long, so that one sees at a glance who works when. */
const Days = styled.span`
  display: flex;
  align-items: flex-end;
  gap: 3px;
  height: 22px;
  i {
    width: 9px;
    min-height: 2px;
    border-radius: 1.5px;
    background: var(--petrol-mid);
  }
  i[data-off] {
    background: var(--line);
  }
`;
const Hidden = styled.span`
  ${hiddenText}
`;
const Last = styled.span`
  text-align: right;
`;
const LONGEST_MINUTES = 600;

/** The crew: roles, working hours and access. */
export function CrewPage() {
  const me = useWho();
  const { data: members, error } = useCrewMembers();
  const { data: crew } = useCrew();
  const [open, setOpen] = useState<string | null>(null);
  if (error) return <Page>{<ErrorNote error={error} />}</Page>;
  if (members === undefined) return <Page>{<Loading rows={12} />}</Page>;
  const active = members.filter((member) => member.isActive);
  const minutes = active.reduce((sum, member) => sum + weekMinutes(member), 0);
  const chosen = members.find((member) => member.id === open) ?? null;
  return (
    <Page>
      <PageHead>
        <h1>Crew</h1>
        <Muted>{`${count(active.length, 'person', 'people')}, ${hourWords(minutes)} a week`}</Muted>
        <Push />
        <Button kind="primary" onPress={() => setOpen(NEW)}>
          Invite…
        </Button>
      </PageHead>
      <WithSheet $isOpen={open !== null}>
        <Panel>
          <ul>
            {members.map((member) => (
              <MemberRow key={member.id} member={member} isOpen={member.id === open} onOpen={() => setOpen(member.id)} />
            ))}
          </ul>
        </Panel>
        {open === null ? null : (
          <PersonSheet
            key={chosen?.id ?? NEW}
            member={chosen}
            roles={(crew?.roles ?? []).map((role) => role.name)}
            isSelf={chosen?.id === me.personId}
            onClose={() => setOpen(null)}
          />
        )}
      </WithSheet>
    </Page>
  );
}

const NEW = 'new';
const weekMinutes = (member: CrewMember): number => member.week.reduce((sum, minutes) => sum + minutes, 0);

function MemberRow({ member, isOpen, onOpen }: { readonly member: CrewMember; readonly isOpen: boolean; readonly onOpen: () => void }) {
  return (
    <Row $isGone={!member.isActive} $isOpen={isOpen}>
      <PersonMark person={member} />
      <div>
        <RowButton aria-expanded={isOpen} onPress={onOpen}>
          {member.name}
        </RowButton>
        <small>{member.email}</small>
      </div>
      <div>
        {member.roles.join(', ') || 'no role yet'}
        <small>{accessWords(member)}</small>
      </div>
      <Inline as="span" $gap={12}>
        <Days aria-hidden="true">
          {member.week.map((minutes, day) => (
            <i
              key={WEEKDAYS[day]}
              data-off={minutes === 0 ? '' : undefined}
              style={{ height: `${(Math.min(minutes, LONGEST_MINUTES) * 100) / LONGEST_MINUTES}%` }}
            />
          ))}
        </Days>
        <span>{hourWords(weekMinutes(member))}</span>
        <Hidden>{daysWords(member)}</Hidden>
      </Inline>
      <Last>{member.openTasks === 0 ? <Muted>no open tasks</Muted> : `${count(member.openTasks, 'task')} open`}</Last>
    </Row>
  );
}

/** What they may do, or why they cannot sign in. */
function accessWords(member: CrewMember): string {
  const access = CREW_ACCESS_WORDS[member.access as CrewAccess].name;
  if (!member.isActive) return 'deactivated';
  if (member.hasPassword) return access;
  return `${access} · ${member.invitedUntil === null ? 'invitation expired' : 'invited'}`;
}

/** The week for screen readers: "Mon 7.5, Tue 7.5". */
function daysWords(member: CrewMember): string {
  const days = member.week.flatMap((minutes, day) => (minutes === 0 ? [] : [`${WEEKDAYS[day]} ${hours(minutes)}`]));
  return days.length === 0 ? 'no day' : days.join(', ');
}
