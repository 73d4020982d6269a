import { can, type LabelLine, type ListChanged } from '@crew/contract';
import { call } from '../../api/client.ts';
import { useLabels } from '../../api/queries.ts';
import { perform } from '../../session/perform.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Empty, ErrorNote, Loading, Panel, PanelBody, PanelHead } from '../../ui/layout.tsx';
import { TextCell } from '../../ui/TextCell.tsx';
import { Note } from '../../ui/text.tsx';
import { count } from '../../words/format.ts';
import { ListRow, ListRows } from './parts.tsx';

/** The labels in use: renamed on all tasks at once, merged by giving one the name of another, removed. */
export function LabelsPanel() {
  const { data: labels, error } = useLabels();
  const names = new Set((labels ?? []).map(({ name }) => name));
  return (
    <Panel aria-label="Labels">
      <PanelHead>
        <h2>Labels</h2>
      </PanelHead>
      <PanelBody>
        {error ? <ErrorNote error={error} /> : labels === undefined ? <Loading rows={4} /> : null}
        {labels?.length === 0 ? <Empty title="No task has a label yet. Type one on a task, and it is listed here." /> : null}
        <ListRows>
          {(labels ?? []).map((label) => (
            <Label key={label.name} label={label} others={names} />
          ))}
        </ListRows>
        {(labels ?? []).length === 0 ? null : (
          <Note $isSmall>
            A new name is on all tasks at once. Give a label the name of another to merge the two. Templates and rules keep the old name
            until you edit them.
          </Note>
        )}
      </PanelBody>
    </Panel>
  );
}

function Label({ label, others }: { readonly label: LabelLine; readonly others: ReadonlySet<string> }) {
  const me = useWho();
  const { name, tasks } = label;
  const change = (to: string | null, said: string): void =>
    void perform({
      send: () => call<ListChanged>('PATCH', '/labels', { label: name, to }),
      said,
      undo: ({ changeId }) => changeId,
    });
  const rename = (to: string): void =>
    change(
      to,
      others.has(to) ? `Merged “${name}” into “${to}” on ${count(tasks, 'task')}.` : `“${name}” is now “${to}” on ${count(tasks, 'task')}.`,
    );
  const isEditable = can(me, 'label.edit') && tasks > 0;
  return (
    <ListRow>
      {isEditable ? (
        <TextCell label={`Name of the label ${name}`} value={name} onSave={(to) => (to.trim() === '' ? false : rename(to.trim()))} />
      ) : (
        <span>{name}</span>
      )}
      {isEditable ? (
        <Button
          kind="quiet"
          aria-label={`Remove ${name} from all tasks`}
          onPress={() => change(null, `Removed “${name}” from ${count(tasks, 'task')}.`)}
        >
          Remove
        </Button>
      ) : (
        <span />
      )}
      <small>{usesOf(label)}</small>
    </ListRow>
  );
}

const usesOf = ({ tasks, openTasks, templates }: LabelLine): string =>
  [
    ...(tasks === 0 ? [] : [`${count(tasks, 'task')}${openTasks === tasks ? '' : `, ${openTasks} open`}`]),
    ...(templates === 0 ? [] : [count(templates, 'template')]),
  ].join(' · ');
