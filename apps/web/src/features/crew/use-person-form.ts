import { AddPerson, CREW_ACCESS, EditPerson, type CrewAccess, type CrewMember, type PersonEdited } from '@crew/contract';
import { useState } from 'react';
import { call, currentOf } from '../../api/client.ts';
import { performOrThrow } from '../../session/perform.ts';
import { useInputForm, type InputForm } from '../../ui/form/use-input-form.ts';
import { weekAsTyped, weekTyped } from '../../ui/form/week.ts';

/** What is typed about somebody; hours as people write them. */
export interface PersonTyped {
  readonly name: string;
  readonly email: string;
  readonly password: string;
  readonly access: CrewAccess;
  readonly roles: readonly string[];
  readonly newRole: string;
  readonly week: readonly string[];
  readonly standInId: string | null;
  /** The version the form speaks of, whatever others do meanwhile. */
  readonly version: number;
}

export interface PersonFormState {
  readonly form: InputForm<PersonTyped>;
  readonly toggleRole: (role: string) => void;
  /** The person as somebody else saved them since the form was opened. */
  readonly theirs: CrewMember | null;
  readonly keepMine: () => void;
  readonly keepTheirs: () => void;
}

/** The form of a new colleague, or of one there is. */
export function usePersonForm(opened: CrewMember | null, onSaved: () => void): PersonFormState {
  const [id] = useState(opened?.id ?? null);
  const [theirs, setTheirs] = useState<CrewMember | null>(null);
  const form = useInputForm<PersonTyped, AddPerson | EditPerson>({
    rules: id === null ? AddPerson : EditPerson,
    typed: opened === null ? NOBODY_YET : typedOf(opened),
    input: ({ name, email, password, access, roles, newRole, week, standInId, version }) => ({
      ...{ name: name.trim(), access, roles: newRole.trim() === '' ? [...roles] : [...roles, newRole.trim()], week: weekTyped(week) },
      ...(id === null ? { email: email.trim(), password } : { standInId, version }),
    }),
    send: async (input, { name }) => {
      try {
        await performOrThrow({
          send: () => (id === null ? add(input) : call<PersonEdited>('PATCH', `/crew/${id}`, input)),
          said: id === null ? `${name.trim()} can sign in now.` : `${name.trim()} saved.`,
          undo: ({ changeId }) => changeId,
        });
      } catch (error) {
        const current = currentOf<CrewMember>(error);
        if (current === null) throw error;
        return setTheirs(current);
      }
      onSaved();
    },
  });
  const { roles } = form.values;
  return {
    form,
    toggleRole: (role) => form.set({ roles: roles.includes(role) ? roles.filter((other) => other !== role) : [...roles, role] }),
    theirs,
    keepMine: () => {
      if (theirs === null) return;
      form.set({ version: theirs.version });
      form.submit();
    },
    keepTheirs: () => {
      if (theirs === null) return;
      form.reset(typedOf(theirs));
      setTheirs(null);
    },
  };
}

/** Nobody is removed again: a colleague who was added by mistake is deactivated. */
async function add(input: object): Promise<Pick<PersonEdited, 'changeId'>> {
  await call<CrewMember>('POST', '/crew', input);
  return { changeId: null };
}

const NOBODY_YET: PersonTyped = {
  ...{ name: '', email: '', password: '', access: 'member', roles: [], newRole: '', standInId: null, version: 0 },
  week: ['7.5', '7.5', '7.5', '7.5', '7.5', '', ''],
};

const typedOf = ({ name, email, roles, access, week, standInId, version }: CrewMember): PersonTyped => ({
  ...{ name, email, roles, standInId, version, password: '', newRole: '', week: weekAsTyped(week) },
  access: CREW_ACCESS.find((known) => known === access) ?? 'member',
});
