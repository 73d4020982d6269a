import { PRIORITY } from '@crew/contract';
import type { TemplateContent, TemplateTask } from '@crew/core';
import { Note } from '../../ui/text.tsx';
import styled from 'styled-components';
import { useCrew } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { OneMore } from '../../ui/form/OneMore.tsx';
import { Sheet, SheetPart } from '../../ui/Sheet.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { CustomFields } from '../field/CustomFields.tsx';
import { FileList } from '../file/FileList.tsx';
import { wordsTyped } from '../../ui/form/typed.ts';
import { PageLinkList } from '../task/PageLinkList.tsx';
import { anchorWords, whenOf } from './anchor-words.ts';
import { TextCell } from '../../ui/TextCell.tsx';
import { addTask, editTask, moveTask, newId, placeTask, removeTask } from './content.ts';
import { Lines, Typed, type PresetPartProps } from './preset-fields.tsx';
import { PresetOutside } from './PresetOutside.tsx';
import { PresetDependencies, PresetWhen } from './PresetWhen.tsx';
import type { TemplateEditor } from './use-template-editor.ts';

const ButtonPart = styled(SheetPart)`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
`;

const PartLine = styled.div`
  display: flex;
  justify-content: space-between;
`;

const KINDS: readonly { readonly id: string; readonly name: string; readonly detail: string }[] = [
  { id: 'work', name: 'Work', detail: 'someone on the crew does it' },
  { id: 'client', name: 'The client does it', detail: 'waits on the client, no effort for us' },
  { id: 'review', name: 'Review', detail: 'somebody decides about a file or a text' },
  { id: 'meeting', name: 'Meeting', detail: 'people meet' },
  { id: 'order', name: 'Order', detail: 'something is bought' },
  { id: 'milestone', name: 'Milestone', detail: 'a point in time, no duration' },
];
const NONE = 'none';
const Stack = styled.div`
  display: flex;
  flex-direction: column;
  gap: 8px;
`;

interface PresetProps {
  readonly editor: TemplateEditor;
  readonly task: TemplateTask;
  readonly onOpen: (id: string) => void;
  readonly onClose: () => void;
}

/** Everything a task of a template presets, each changed where it is read. */
export function TaskPreset({ editor, task, onOpen, onClose }: PresetProps) {
  const { content, edit } = editor;
  const { data: crew } = useCrew();
  const set = (change: Partial<TemplateTask>): void => edit(editTask(task.id, change));
  const phase = content.phases.find((candidate) => candidate.id === task.phaseId);
  const isGroup = content.tasks.some((other) => other.parentId === task.id);
  return (
    <Sheet label="Task of the template" line={phase?.name ?? ''} onClose={onClose}>
      <TextCell label="Title" value={task.title} onSave={(title) => (title.trim() === '' ? false : set({ title: title.trim() }))} isTitle />
      <Note $isSmall>{anchorWords(whenOf(task, content))}</Note>
      <Who task={task} set={set} />
      <PresetWhen task={task} content={content} isGroup={isGroup} set={set} />
      <PresetDependencies task={task} content={content} set={set} />
      <SheetPart>
        <Field
          isLong
          isTight
          label="Description"
          value={task.description}
          onChange={(description) => set({ description })}
          placeholder="Context, links, what good looks like"
        />
      </SheetPart>
      <Lines label="Steps" add="Add a step" lines={task.steps} onChange={(steps) => set({ steps })} />
      <Subtasks task={task} content={content} editor={editor} onOpen={onOpen} />
      <More task={task} set={set} />
      <PresetOutside task={task} set={set} />
      <FileList
        files={task.files.map((file) => ({ ...file, id: file.fileId }))}
        note="Copied into every engagement. Drop files here."
        onAdd={(added, replaced) =>
          set({
            files: [
              ...task.files.filter(({ fileId }) => !replaced.includes(fileId)),
              ...added.map(({ id, name, bytes }) => ({ fileId: id, name, bytes })),
            ],
          })
        }
        onRemove={(id) => set({ files: task.files.filter((file) => file.fileId !== id) })}
      />
      <PageLinkList pageLinks={task.pageLinks} onChange={(pageLinks) => set({ pageLinks })} />
      <CustomFields isTemplate entries={task.customFields} people={crew?.people ?? []} onChange={(customFields) => set({ customFields })} />
      <ButtonPart>
        <Button onPress={() => edit(moveTask(task.id, -1))}>Earlier</Button>
        <Button onPress={() => edit(moveTask(task.id, 1))}>Later</Button>
        <Button
          kind="danger"
          onPress={() => {
            edit(removeTask(task.id));
            onClose();
          }}
        >
          Remove
        </Button>
      </ButtonPart>
    </Sheet>
  );
}

function Who({ task, set }: PresetPartProps) {
  const { data: crew } = useCrew();
  return (
    <Stack>
      <Choose
        isTight
        label="Kind"
        choices={KINDS}
        value={task.kind}
        onChange={(kind) =>
          set({ kind, ...(kind === 'milestone' ? { days: 0 } : {}), ...(kind === 'client' ? { isShownToClient: true, roleId: null } : {}) })
        }
      />
      {task.kind === 'client' ? null : (
        <>
          <Choose
            isTight
            label="Role"
            choices={crew && [{ id: NONE, name: 'Unassigned' }, ...crew.roles]}
            value={task.roleId ?? NONE}
            onChange={(id) => set({ roleId: id === NONE ? null : id })}
          />
          <Choose
            isTight
            label="Person"
            choices={crew && [{ id: NONE, name: 'Whoever has the role' }, ...crew.people]}
            value={task.personId ?? NONE}
            onChange={(id) => set({ personId: id === NONE ? null : id })}
          />
          <Helpers task={task} set={set} />
        </>
      )}
    </Stack>
  );
}

/** Roles and people who help; those there are come first, to be removed again. */
function Helpers({ task: { roleId, personId, helperRoleIds, helperPersonIds }, set }: PresetPartProps) {
  const { data: crew } = useCrew();
  const all = crew && [
    ...crew.roles.filter(({ id }) => id !== roleId).map(({ id, name }) => ({ id, name, detail: 'whoever has the role' })),
    ...crew.people.filter(({ id }) => id !== personId).map(({ id, name, roles }) => ({ id, name, detail: roles[0] ?? 'no role yet' })),
  ];
  const helps = ({ id }: { readonly id: string }): boolean => helperRoleIds.includes(id) || helperPersonIds.includes(id);
  const helping = all?.filter(helps) ?? [];
  const turn = (ids: readonly string[], id: string): string[] => (ids.includes(id) ? ids.filter((other) => other !== id) : [...ids, id]);
  return (
    <Choose
      isTight
      label={helping.length === 0 ? 'Helpers' : `Helpers: ${helping.map(({ name }) => name).join(', ')}`}
      placeholder="Add or remove a role or a person"
      choices={all && [...helping.map(({ id, name }) => ({ id, name: `Remove ${name}` })), ...all.filter((one) => !helps(one))]}
      value={null}
      onChange={(id) =>
        set(
          crew?.roles.some((role) => role.id === id)
            ? { helperRoleIds: turn(helperRoleIds, id) }
            : { helperPersonIds: turn(helperPersonIds, id) },
        )
      }
    />
  );
}

function Subtasks({
  task,
  content,
  editor,
  onOpen,
}: Omit<PresetPartProps, 'set'> & Pick<PresetProps, 'editor' | 'onOpen'> & { readonly content: TemplateContent }) {
  const parts = content.tasks.filter((other) => other.parentId === task.id);
  return (
    <SheetPart>
      <h3>Subtasks</h3>
      {parts.map((part) => (
        <PartLine key={part.id}>
          <Button isFlush kind="quiet" onPress={() => onOpen(part.id)}>
            {part.title}
          </Button>
          <Button
            kind="quiet"
            aria-label={`Move ${part.title} out of ${task.title}`}
            onPress={() => editor.edit(placeTask(part.id, { phaseId: task.phaseId }))}
          >
            Move out
          </Button>
        </PartLine>
      ))}
      <OneMore
        label="Add a subtask"
        onAdd={(title) => editor.edit(addTask(newId(), { phaseId: task.phaseId, parentId: task.id, title, roleId: task.roleId }))}
      />
    </SheetPart>
  );
}

function More({ task, set }: PresetPartProps) {
  return (
    <SheetPart $gap={8}>
      <Choose
        label="Priority"
        isTight
        choices={PRIORITY.map((id) => ({ id, name: `${id[0]?.toUpperCase()}${id.slice(1)}` }))}
        value={task.priority}
        onChange={(priority) => set({ priority })}
      />
      <Typed
        label="Deliverable"
        value={task.deliverable ?? ''}
        read={(text) => ({ deliverable: text.trim() === '' ? null : text.trim() })}
        set={set}
      />
      <Typed label="Labels, separated by commas" value={task.labels.join(', ')} read={(text) => ({ labels: wordsTyped(text) })} set={set} />
      <Tick isSelected={task.isShownToClient} onChange={(isShownToClient) => set({ isShownToClient })}>
        Shown to the client
      </Tick>
      <Tick isSelected={task.isChargeable} onChange={(isChargeable) => set({ isChargeable })}>
        Chargeable
      </Tick>
    </SheetPart>
  );
}
