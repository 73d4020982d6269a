import { perform } from '../../session/perform.ts';
import { CREW_ACCESS, type AddPerson, type CrewAccess, type CrewMember, type EditPerson } from '@crew/contract';
import { useState } from 'react';
import { ApiError, call, currentOf } from '../../api/client.ts';
import { hours, parseHours } from '../../words/format.ts';

export const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const;

/** What is typed about somebody; hours as people write them. */
export interface PersonForm {
  readonly name: string;
  readonly email: string;
  readonly password: string;
  readonly access: CrewAccess;
  readonly roles: readonly string[];
  readonly newRole: string;
  readonly week: readonly string[];
}

export interface PersonFormState {
  readonly form: PersonForm;
  readonly faults: Readonly<Record<string, string>>;
  readonly isSaving: boolean;
  readonly change: (change: Partial<PersonForm>) => void;
  readonly toggleRole: (role: string) => void;
  readonly setDay: (day: number, text: string) => void;
  /** True when it was saved; else every fault stands at its field. */
  readonly save: (more?: Pick<EditPerson, 'isActive'>) => Promise<boolean>;
  /** The person as somebody else saved them since the form was opened. */
  readonly theirs: CrewMember | null;
  readonly keepMine: () => Promise<boolean>;
  readonly takeTheirs: () => void;
}

const FULL_WEEK = ['7.5', '7.5', '7.5', '7.5', '7.5', '', ''];

/** The form of a new colleague, or of one there is. */
export function usePersonForm(opened: CrewMember | null): PersonFormState {
  // The form speaks of the person as they were when it was opened, whatever others do meanwhile.
  const [member, setMember] = useState(opened);
  const [theirs, setTheirs] = useState<CrewMember | null>(null);
  const [form, setForm] = useState<PersonForm>(() => (member === null ? emptyForm() : formOf(member)));
  const [faults, setFaults] = useState<Record<string, string>>({});
  const [isSaving, setSaving] = useState(false);
  const change = (next: Partial<PersonForm>): void => {
    setForm((before) => ({ ...before, ...next }));
    setFaults({});
  };
  const send = async (version: number, more: Pick<EditPerson, 'isActive'>): Promise<boolean> => {
    const wrong = faultsOf(form, member === null);
    setFaults(wrong);
    if (Object.keys(wrong).length > 0) return false;
    setSaving(true);
    const { isDone } = await perform({
      send: () =>
        member === null
          ? call('POST', '/crew', additionOf(form))
          : call('PATCH', `/crew/${member.id}`, { ...changeOf(form), version, ...more }),
      onTrouble: (words, error) => {
        const current = currentOf<CrewMember>(error);
        setTheirs(current);
        if (current === null) setFaults({ [(error instanceof ApiError ? error.field : undefined) ?? 'form']: words });
      },
    });
    setSaving(false);
    return isDone;
  };
  return {
    form,
    faults,
    isSaving,
    change,
    toggleRole: (role) =>
      change({ roles: form.roles.includes(role) ? form.roles.filter((other) => other !== role) : [...form.roles, role] }),
    setDay: (day, text) => change({ week: form.week.map((before, index) => (index === day ? text : before)) }),
    save: (more = {}) => send(member?.version ?? 0, more),
    theirs,
    keepMine: () => send(theirs?.version ?? 0, {}),
    takeTheirs: () => {
      if (theirs === null) return;
      setMember(theirs);
      setForm(formOf(theirs));
      setTheirs(null);
    },
  };
}

const emptyForm = (): PersonForm => ({ name: '', email: '', password: '', access: 'member', roles: [], newRole: '', week: FULL_WEEK });

function formOf(member: CrewMember): PersonForm {
  const { name, email, roles } = member;
  const access = CREW_ACCESS.find((known) => known === member.access) ?? 'member';
  return {
    name,
    email,
    access,
    roles,
    password: '',
    newRole: '',
    week: member.week.map((minutes) => (minutes === 0 ? '' : hours(minutes))),
  };
}

/** What must be put right before asking the server; it checks everything again. */
export function faultsOf(form: PersonForm, isNew: boolean): Record<string, string> {
  return {
    ...(form.name.trim() === '' ? { name: 'Write the name.' } : {}),
    ...(isNew && form.email.trim() === '' ? { email: 'Write the mail address.' } : {}),
    ...(isNew && form.password.length < 12 ? { password: 'Choose a password of at least 12 characters.' } : {}),
    ...(weekOf(form.week) === null ? { week: 'Write hours as 7.5 or 7:30, or leave a day empty.' } : {}),
  };
}

/** Typed hours as minutes of Monday … Sunday; null when one of them is no time of day. */
export function weekOf(typed: readonly string[]): number[] | null {
  const week = typed.map((text) => (text.trim() === '' ? 0 : parseHours(text)));
  return week.every((minutes): minutes is number => minutes !== null && minutes <= 1440) ? week : null;
}

const rolesOf = (form: PersonForm): string[] => (form.newRole.trim() === '' ? [...form.roles] : [...form.roles, form.newRole.trim()]);

function additionOf(form: PersonForm): AddPerson {
  const { name, email, password, access } = form;
  return { name: name.trim(), email: email.trim(), password, access, roles: rolesOf(form), week: weekOf(form.week) ?? [] };
}

function changeOf(form: PersonForm): Omit<EditPerson, 'version'> {
  return { name: form.name.trim(), access: form.access, roles: rolesOf(form), week: weekOf(form.week) ?? [] };
}
