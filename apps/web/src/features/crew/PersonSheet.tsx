import { CREW_ACCESS, CREW_ACCESS_WORDS, type CrewAccess, type CrewMember } from '@crew/contract';
import type { FormEvent } from 'react';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { ErrorNote } from '../../ui/layout.tsx';
import { Sheet, SheetPart } from '../../ui/Sheet.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { notify } from '../../ui/toasts.tsx';
import { count, hourWords } from '../../words/format.ts';
import { usePersonForm, type PersonFormState } from './use-person-form.ts';
import { WeekInput } from './WeekInput.tsx';

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

/** A new colleague, or one there is: who they are, what they do, when they work. */
export function PersonSheet({ member, roles, isSelf, onClose }: PersonSheetProps) {
  const state = usePersonForm(member);
  const { form, faults, change, isSaving } = state;
  const save = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    if (!(await state.save())) return;
    notify(member === null ? `${form.name.trim()} can sign in now.` : `${form.name.trim()} saved.`);
    onClose();
  };
  return (
    <Sheet label="Person" line={member === null ? 'New colleague' : member.email} onClose={onClose}>
      <Form onSubmit={(event) => void save(event)} noValidate>
        <Field label="Name" value={form.name} onChange={(name) => change({ name })} error={faults['name']} autoFocus={member === null} />
        {member === null ? <SignInFields state={state} /> : null}
        <Choose
          label="Access"
          choices={CREW_ACCESS.map((id) => ({ id, name: CREW_ACCESS_WORDS[id].name, detail: CREW_ACCESS_WORDS[id].may }))}
          value={form.access}
          onChange={(id) => change({ access: id as CrewAccess })}
          error={faults['access']}
        />
        <RoleTicks state={state} roles={roles} />
        <WeekFields state={state} />
        {state.theirs === null ? null : <Both theirs={state.theirs} state={state} onClose={onClose} />}
        {faults['form'] === undefined ? null : <ErrorNote error={new Error(faults['form'])} />}
        <Actions>
          <Button kind="primary" type="submit" isDisabled={isSaving}>
            {member === null ? 'Add' : 'Save'}
          </Button>
          <Button kind="quiet" onPress={onClose}>
            Put back
          </Button>
        </Actions>
      </Form>
      {member === null || isSelf ? null : <Leaving member={member} state={state} onClose={onClose} />}
    </Sheet>
  );
}

/** Somebody saved this person meanwhile: what they wrote, and the choice. */
function Both({ theirs, state, onClose }: { readonly theirs: CrewMember; readonly state: PersonFormState; readonly onClose: () => void }) {
  const keep = async (): Promise<void> => {
    if (await state.keepMine()) onClose();
  };
  const { name, roles, access, week } = theirs;
  const hoursAWeek = hourWords(week.reduce((sum, minutes) => sum + minutes, 0));
  return (
    <SheetPart role="alert">
      <Note>
        Somebody changed this person since you opened them. Now: {name}, {CREW_ACCESS_WORDS[access as CrewAccess].name.toLowerCase()},{' '}
        {roles.join(', ') || 'no role'}, {hoursAWeek} a week.
      </Note>
      <Button onPress={() => void keep()}>Put mine in</Button> <Button onPress={state.takeTheirs}>Take theirs</Button>
    </SheetPart>
  );
}

function SignInFields({ state: { form, faults, change } }: { readonly state: PersonFormState }) {
  return (
    <>
      <Field label="Mail address" type="email" value={form.email} onChange={(email) => change({ email })} error={faults['email']} />
      <Field
        label="Password to begin with"
        value={form.password}
        onChange={(password) => change({ password })}
        error={faults['password']}
        autoComplete="off"
      />
      <Note>Tell them both yourself; nothing is sent.</Note>
    </>
  );
}

/** The first one ticked is the role named beside the person. */
function RoleTicks({
  state: { form, faults, change, toggleRole },
  roles,
}: {
  readonly state: PersonFormState;
  readonly roles: readonly string[];
}) {
  const all = [...new Set([...form.roles, ...roles])];
  return (
    <SheetPart aria-label="Roles">
      <h3>Roles</h3>
      <Roles>
        {all.map((role) => (
          <Tick key={role} isSelected={form.roles.includes(role)} onChange={() => toggleRole(role)}>
            {role}
          </Tick>
        ))}
      </Roles>
      <Field label="A role that is not listed" value={form.newRole} onChange={(newRole) => change({ newRole })} error={faults['roles']} />
    </SheetPart>
  );
}

function WeekFields({ state: { form, faults, setDay } }: { readonly state: PersonFormState }) {
  return (
    <SheetPart aria-label="Hours">
      <h3>Hours a day</h3>
      <WeekInput typed={form.week} onType={setDay} fault={faults['week']} />
    </SheetPart>
  );
}

/** Nobody is removed: what they did stays theirs. */
function Leaving({
  member,
  state,
  onClose,
}: {
  readonly member: CrewMember;
  readonly state: PersonFormState;
  readonly onClose: () => void;
}) {
  const turn = async (): Promise<void> => {
    if (!(await state.save({ isActive: !member.isActive }))) return;
    notify(member.isActive ? `${member.name} cannot sign in any more.` : `${member.name} can sign in again.`);
    onClose();
  };
  const open =
    member.openTasks === 0 ? 'Nothing is open on their desk.' : `${count(member.openTasks, 'open task')} would wait for somebody else.`;
  return (
    <SheetPart aria-label="Leaving">
      <h3>{member.isActive ? 'Leaving' : 'Left'}</h3>
      <Note>{member.isActive ? `${open} What they did stays theirs.` : 'Cannot sign in and is not planned with.'}</Note>
      <Button onPress={() => void turn()}>{member.isActive ? 'End their access' : 'Let them back in'}</Button>
    </SheetPart>
  );
}
