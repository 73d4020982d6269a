import { KeepRole, type ListChanged, type RoleLine } from '@crew/contract';
import { useState } from 'react';
import { call } from '../../api/client.ts';
import { useRoles } from '../../api/queries.ts';
import { perform, performOrThrow } from '../../session/perform.ts';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { Empty, ErrorNote, Loading, Panel, PanelBody, PanelHead, Push } from '../../ui/layout.tsx';
import { TextCell } from '../../ui/TextCell.tsx';
import { Trouble } from '../../ui/text.tsx';
import { count } from '../../words/format.ts';
import { ListRow, ListRows, NewLine } from './parts.tsx';

const undo = ({ changeId }: ListChanged): string | null => changeId;

/** The agency's roles: renamed where they are read, deleted while nothing uses them. */
export function RolesPanel() {
  const { data: roles, error } = useRoles();
  const [isNew, setNew] = useState(false);
  return (
    <Panel aria-label="Roles">
      <PanelHead>
        <h2>Roles</h2>
        <Push />
        {isNew ? null : <Button onPress={() => setNew(true)}>New role…</Button>}
      </PanelHead>
      <PanelBody>
        {error ? <ErrorNote error={error} /> : roles === undefined ? <Loading rows={6} /> : null}
        {isNew ? <NewRole onClose={() => setNew(false)} /> : null}
        {roles?.length === 0 && !isNew ? <Empty title="Roles say what kind of work a task is, and who can do it." /> : null}
        <ListRows>
          {(roles ?? []).map((role) => (
            <Role key={role.id} role={role} />
          ))}
        </ListRows>
      </PanelBody>
    </Panel>
  );
}

function Role({ role }: { readonly role: RoleLine }) {
  const rename = (name: string): void =>
    void perform({
      send: () => call<ListChanged>('PATCH', `/roles/${role.id}`, { name }),
      said: `“${role.name}” is now called “${name}”.`,
      undo,
    });
  const remove = (): void =>
    void perform({ send: () => call<ListChanged>('DELETE', `/roles/${role.id}`), said: `Deleted the role “${role.name}”.`, undo });
  return (
    <ListRow>
      <TextCell
        label={`Name of the role ${role.name}`}
        value={role.name}
        onSave={(name) => (name.trim() === '' ? false : rename(name.trim()))}
      />
      {role.isUsed ? (
        <span />
      ) : (
        <Button kind="quiet" aria-label={`Delete ${role.name}`} onPress={remove}>
          Delete
        </Button>
      )}
      <small>{usesOf(role)}</small>
    </ListRow>
  );
}

function usesOf({ people, openTasks, templates, isUsed }: RoleLine): string {
  const uses = [
    ...(people === 0 ? [] : [count(people, 'person', 'people')]),
    ...(openTasks === 0 ? [] : [count(openTasks, 'open task')]),
    ...(templates === 0 ? [] : [count(templates, 'template')]),
  ];
  if (uses.length > 0) return uses.join(' · ');
  return isUsed ? 'only in finished work' : 'not used yet';
}

function NewRole({ onClose }: { readonly onClose: () => void }) {
  const form = useInputForm({
    rules: KeepRole,
    typed: { name: '' },
    input: ({ name }) => ({ name: name.trim() }),
    send: async (input) => {
      await performOrThrow({ send: () => call<ListChanged>('POST', '/roles', input), said: `Added the role “${input.name}”.`, undo });
      onClose();
    },
  });
  return (
    <NewLine onSubmit={form.submit} noValidate>
      <Field {...form.bind('name')} label="Name of the role" autoFocus />
      <Trouble words={form.trouble} />
      <div>
        <Button kind="primary" type="submit">
          Add role
        </Button>
        <Button onPress={onClose}>Cancel</Button>
      </div>
    </NewLine>
  );
}
