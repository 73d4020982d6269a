import { CREW_ACCESS, CREW_ACCESS_WORDS, type AccessLinkMade, type CrewAccess, type CrewMember, type PersonEdited } from '@crew/contract';
import { call } from '../../api/client.ts';
import { useCrew } from '../../api/queries.ts';
import { perform } from '../../session/perform.ts';
import { useState } from 'react';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { WeekInput } from '../../ui/form/WeekInput.tsx';
import { Sheet, SheetPart } from '../../ui/Sheet.tsx';
import { Trouble } from '../../ui/text.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { count, hourWords } from '../../words/format.ts';
import { AccessPart, InvitedSheet } from './AccessPart.tsx';
import { usePersonForm, type PersonFormState } from './use-person-form.ts';
import { FoldedHistory } from '../history/FoldedHistory.tsx';

const Form = styled.form`
  display: flex;
  flex-direction: column;
  gap: 2px;
  margin-top: 8px;
`;
const Roles = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 4px 12px;
  margin-bottom: 8px;
`;
const Note = styled.p`
  font-size: 12.5px;
  color: var(--ink-2);
  margin: 4px 0 8px;
`;
const Actions = styled.div`
  display: flex;
  gap: 8px;
  margin-top: 14px;
`;

interface PersonSheetProps {
  readonly member: CrewMember | null;
  readonly roles: readonly string[];
  readonly isSelf: boolean;
  readonly onClose: () => void;
}

/** Inviting somebody, or editing a colleague: name, roles, hours and access. */
export function PersonSheet({ member, roles, isSelf, onClose }: PersonSheetProps) {
  const isNew = member === null;
  const [made, setMade] = useState<AccessLinkMade | null>(null);
  const state = usePersonForm(member, (link) => (link === null ? onClose() : setMade(link)));
  const { form, theirs } = state;
  if (made !== null) return <InvitedSheet made={made} onClose={onClose} />;
  return (
    <Sheet label="Person" line={isNew ? 'Invite a person' : member.email} onClose={onClose}>
      <Form onSubmit={form.submit} noValidate>
        <Field {...form.bind('name')} label="Name" autoFocus={isNew} />
        {isNew ? <Field {...form.bind('email')} label="Mail address" type="email" /> : null}
        <Choose
          {...form.bind('access')}
          label="Access"
          choices={CREW_ACCESS.map((id) => ({ id, name: CREW_ACCESS_WORDS[id].name, detail: CREW_ACCESS_WORDS[id].may }))}
        />
        <RoleTicks state={state} roles={roles} />
        <SheetPart aria-label="Hours">
          <h3>Hours a day</h3>
          <WeekInput {...form.bind('week')} />
        </SheetPart>
        {isNew ? null : <StandIn form={form} personId={member.id} />}
        {theirs === null ? null : <Both theirs={theirs} state={state} />}
        <Trouble words={form.trouble} />
        <Actions>
          <Button kind="primary" type="submit">
            {isNew ? 'Invite' : 'Save'}
          </Button>
          <Button kind="quiet" onPress={onClose}>
            Cancel
          </Button>
        </Actions>
      </Form>
      {isNew || isSelf ? null : <AccessPart member={member} />}
      {isNew || isSelf ? null : <Leaving member={member} onClose={onClose} />}
      {isNew ? null : <FoldedHistory subject="person" id={member.id} />}
    </Sheet>
  );
}

/** Somebody saved this person meanwhile: what they wrote, and the choice between both. */
function Both({ theirs, state }: { readonly theirs: CrewMember; readonly state: PersonFormState }) {
  const { name, roles, access, week } = theirs;
  const hoursAWeek = hourWords(week.reduce((sum, minutes) => sum + minutes, 0));
  return (
    <SheetPart role="alert">
      <Note>
        Somebody changed this person since you opened it. Now: {name}, {CREW_ACCESS_WORDS[access as CrewAccess].name.toLowerCase()},{' '}
        {roles.join(', ') || 'no role'}, {hoursAWeek} a week.
      </Note>
      <Button onPress={state.keepMine}>Keep my version</Button> <Button onPress={state.keepTheirs}>Use their version</Button>
    </SheetPart>
  );
}

const NOBODY = 'nobody';

/** Who takes their handoffs while they are away. */
function StandIn({ form, personId }: Pick<PersonFormState, 'form'> & { readonly personId: string }) {
  const { data } = useCrew();
  const people = (data?.people ?? []).filter(({ id, access }) => id !== personId && access !== 'freelancer');
  const { value, error } = form.bind('standInId');
  return (
    <SheetPart aria-label="While away">
      <Choose
        label="Stand-in while away"
        error={error}
        choices={[{ id: NOBODY, name: 'The lead of each engagement' }, ...people.map(({ id, name }) => ({ id, name }))]}
        value={value ?? NOBODY}
        onChange={(id) => form.set({ standInId: id === NOBODY ? null : id })}
      />
      <Note>Is told of handoffs that arrive in the meantime and can pick them up.</Note>
    </SheetPart>
  );
}

/** The first one ticked is the role named beside the person. */
function RoleTicks({ state: { form, toggleRole }, roles }: { readonly state: PersonFormState; readonly roles: readonly string[] }) {
  const ticked = form.values.roles;
  const all = [...new Set([...ticked, ...roles])];
  return (
    <SheetPart aria-label="Roles">
      <h3>Roles</h3>
      <Roles>
        {all.map((role) => (
          <Tick key={role} isSelected={ticked.includes(role)} onChange={() => toggleRole(role)}>
            {role}
          </Tick>
        ))}
      </Roles>
      <Field {...form.bind('newRole')} label="New role" error={form.bind('roles').error} />
    </SheetPart>
  );
}

/** People are deactivated, not deleted: what they did stays theirs. */
function Leaving({ member, onClose }: { readonly member: CrewMember; readonly onClose: () => void }) {
  const { id, name, version, isActive } = member;
  const turn = async (): Promise<void> => {
    const { isDone } = await perform({
      send: () => call<PersonEdited>('PATCH', `/crew/${id}`, { version, isActive: !isActive }),
      said: isActive ? `${name} cannot sign in any more.` : `${name} can sign in again.`,
      undo: ({ changeId }) => changeId,
    });
    if (isDone) onClose();
  };
  const open = member.openTasks === 0 ? 'They have no open tasks.' : `${count(member.openTasks, 'open task')} would need to be reassigned.`;
  return (
    <SheetPart aria-label="Deactivate">
      <h3>{member.isActive ? 'Deactivate' : 'Deactivated'}</h3>
      <Note>{member.isActive ? `${open} Past work keeps their name.` : 'Cannot sign in and gets no new work.'}</Note>
      <Button onPress={() => void turn()}>{member.isActive ? 'Deactivate' : 'Reactivate'}</Button>
    </SheetPart>
  );
}
