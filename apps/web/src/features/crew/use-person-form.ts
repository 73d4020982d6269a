import {
  CREW_ACCESS,
  EditPerson,
  InvitedPerson,
  type AccessLinkMade,
  type CrewAccess,
  type CrewMember,
  type PeopleInvited,
  type PersonEdited,
} from '@crew/contract';
import { useState } from 'react';
import { ApiError, call, currentOf } from '../../api/client.ts';
import { performOrThrow } from '../../session/perform.ts';
import { useInputForm, type InputForm } from '../../ui/form/use-input-form.ts';
import { weekAsTyped, weekTyped } from '../../ui/form/week.ts';

/** What is typed about somebody; hours as people write them. */
export interface PersonTyped {
  readonly name: string;
  readonly email: string;
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

/** The form of somebody who is invited, or of a colleague; `onSaved` is given the link of who was invited. */
export function usePersonForm(opened: CrewMember | null, onSaved: (link: AccessLinkMade | null) => void): PersonFormState {
  const [id] = useState(opened?.id ?? null);
  const [theirs, setTheirs] = useState<CrewMember | null>(null);
  const form = useInputForm<PersonTyped, InvitedPerson | EditPerson>({
    rules: id === null ? InvitedPerson : EditPerson,
    typed: opened === null ? NOBODY_YET : typedOf(opened),
    input: ({ name, email, access, roles, newRole, week, standInId, version }) => ({
      ...{ name: name.trim(), access, roles: newRole.trim() === '' ? [...roles] : [...roles, newRole.trim()], week: weekTyped(week) },
      ...(id === null ? { email: email.trim() } : { standInId, version }),
    }),
    send: async (input, { name }) => {
      if (id === null) return onSaved(await invite(input));
      try {
        await performOrThrow({
          send: () => call<PersonEdited>('PATCH', `/crew/${id}`, input),
          said: `${name.trim()} saved.`,
          undo: ({ changeId }) => changeId,
        });
      } catch (error) {
        const current = currentOf<CrewMember>(error);
        if (current === null) throw error;
        return setTheirs(current);
      }
      onSaved(null);
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

/** Invites one person. A refusal names its field in the list of people; here there is one form for one of them. */
async function invite(person: object): Promise<AccessLinkMade> {
  try {
    const { links } = await performOrThrow({
      send: () => call<PeopleInvited>('POST', '/invitations', { people: [person] }),
      said: ({ links }) => `${links[0]?.name ?? ''} is invited.`,
    });
    return links[0] as AccessLinkMade;
  } catch (error) {
    if (!(error instanceof ApiError) || error.field === undefined) throw error;
    throw new ApiError({ code: error.code, message: error.message, field: error.field.replace(/^people\.0\./, '') });
  }
}

const NOBODY_YET: PersonTyped = {
  ...{ name: '', email: '', access: 'member', roles: [], newRole: '', standInId: null, version: 0 },
  week: ['7.5', '7.5', '7.5', '7.5', '7.5', '', ''],
};

const typedOf = ({ name, email, roles, access, week, standInId, version }: CrewMember): PersonTyped => ({
  ...{ name, email, roles, standInId, version, newRole: '', week: weekAsTyped(week) },
  access: CREW_ACCESS.find((known) => known === access) ?? 'member',
});
