import { LINK_TYPE, LINK_TYPE_WORDS, PRIORITY, type LinkType } from '@crew/contract';
import type { TemplateContent, TemplateTask } from '@crew/core';
import { useState } from 'react';
import styled from 'styled-components';
import { useCrew } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { Sheet, SheetPart } from '../../ui/Sheet.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { hours, parseHours } from '../../words/format.ts';
import { OwnFields } from '../field/OwnFields.tsx';
import { FileList } from '../file/FileList.tsx';
import { readLabels } from '../task/Gathering.tsx';
import { LinkList } from '../task/LinkList.tsx';
import { anchorWords, whenOf } from './anchor-words.ts';
import { TextCell } from './cells.tsx';
import { addTask, editTask, moveTask, newId, placeTask, removeTask } from './content.ts';
import type { TemplateEditor } from './use-template-editor.ts';

const KINDS: readonly { readonly id: string; readonly name: string; readonly detail: string }[] = [
  { id: 'work', name: 'Work', detail: 'somebody of the crew does it' },
  { id: 'client', name: 'The client does it', detail: 'waits on the client, no effort of ours' },
  { id: 'review', name: 'Review', detail: 'somebody decides about a file or a text' },
  { id: 'meeting', name: 'Meeting', detail: 'people come together' },
  { id: 'order', name: 'Order', detail: 'a thing is bought' },
  { id: 'milestone', name: 'Milestone', detail: 'a moment, without length' },
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
      <TextCell
        label="Title"
        value={task.title}
        onSave={(title) => (title.trim() === '' ? false : set({ title: title.trim() }))}
        style={{ font: "650 19px/1.25 'Bricolage Grotesque Variable', sans-serif" }}
      />
      <p style={{ color: 'var(--ink-2)', fontSize: 12.5, margin: '2px 0 10px' }}>{anchorWords(whenOf(task, content))}</p>
      <Who task={task} set={set} />
      <When task={task} content={content} isGroup={isGroup} set={set} />
      <Ties task={task} content={content} set={set} />
      <SheetPart>
        <Field
          isLong
          isTight
          label="What there is to know"
          value={task.description}
          onChange={(description) => set({ description })}
          placeholder="Context, links, what good looks like"
        />
      </SheetPart>
      <Lines label="Steps" add="Add a step" lines={task.steps} onChange={(steps) => set({ steps })} />
      <Subtasks task={task} content={content} editor={editor} onOpen={onOpen} />
      <More task={task} set={set} />
      <Outside task={task} set={set} />
      <FileList
        files={task.files.map((file) => ({ ...file, id: file.fileId }))}
        note="They go along into every engagement. Drop one here."
        onAdd={(added) => set({ files: [...task.files, ...added.map(({ id, name, bytes }) => ({ fileId: id, name, bytes }))] })}
        onTakeAway={(id) => set({ files: task.files.filter((file) => file.fileId !== id) })}
      />
      <LinkList links={task.links} onChange={(links) => set({ links })} />
      <OwnFields isTemplate entries={task.ownFields} people={crew?.people ?? []} onChange={(ownFields) => set({ ownFields })} />
      <SheetPart style={{ display: 'flex', flexWrap: 'wrap', gap: 6 }}>
        <Button onPress={() => edit(moveTask(task.id, -1))}>Earlier</Button>
        <Button onPress={() => edit(moveTask(task.id, 1))}>Later</Button>
        <Button
          kind="danger"
          onPress={() => {
            edit(removeTask(task.id));
            onClose();
          }}
        >
          Take it out
        </Button>
      </SheetPart>
    </Sheet>
  );
}

interface PartProps {
  readonly task: TemplateTask;
  readonly set: (change: Partial<TemplateTask>) => void;
}

function Who({ task, set }: PartProps) {
  const { data: crew } = useCrew();
  const roles = crew?.roles ?? [];
  const helpers = roles.filter((role) => task.helperRoleIds.includes(role.id));
  const others = roles.filter((role) => role.id !== task.roleId && !task.helperRoleIds.includes(role.id));
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
            choices={[{ id: NONE, name: 'Nobody yet' }, ...roles]}
            value={task.roleId ?? NONE}
            onChange={(id) => set({ roleId: id === NONE ? null : id })}
          />
          <Choose
            isTight
            label="Somebody in particular"
            choices={[{ id: NONE, name: 'Whoever has the role' }, ...(crew?.people ?? [])]}
            value={task.personId ?? NONE}
            onChange={(id) => set({ personId: id === NONE ? null : id })}
          />
          <Choose
            isTight
            label={helpers.length === 0 ? 'Who helps' : `Who helps: ${helpers.map((role) => role.name).join(', ')}`}
            placeholder="Add or take away a role"
            choices={[...helpers.map((role) => ({ id: role.id, name: `Without ${role.name}` })), ...others]}
            value={null}
            onChange={(id) =>
              set({
                helperRoleIds: task.helperRoleIds.includes(id)
                  ? task.helperRoleIds.filter((other) => other !== id)
                  : [...task.helperRoleIds, id],
              })
            }
          />
        </>
      )}
    </Stack>
  );
}

const ANCHORS: readonly { readonly id: TemplateTask['anchor']['at']; readonly name: string; readonly days: string }[] = [
  { id: 'phase-start', name: 'begins after the phase begins', days: 'Days after the phase begins' },
  { id: 'engagement-start', name: 'begins after the engagement begins', days: 'Days after the engagement begins' },
  { id: 'before-phase-end', name: 'ends before the phase ends', days: 'Days before the phase ends' },
  { id: 'before-promise', name: 'ends before the promise', days: 'Days before the promise' },
];
const wholeDays = (text: string): number | null => (/^-?\d{1,4}$/.test(text.trim()) ? Number(text) : null);

function When({ task, content, isGroup, set }: PartProps & { readonly content: TemplateContent; readonly isGroup: boolean }) {
  const anchors = isGroup ? ANCHORS.filter((anchor) => !anchor.id.startsWith('before')) : ANCHORS;
  return (
    <SheetPart>
      <h3>When and how much</h3>
      {isGroup ? (
        <p style={{ color: 'var(--ink-2)', fontSize: 12.5, marginBottom: 6 }}>Its subtasks decide its length and effort.</p>
      ) : null}
      <Choose
        isTight
        label="When nothing pushes it, it"
        choices={anchors}
        value={task.anchor.at}
        onChange={(at) => set({ anchor: { ...task.anchor, at: at as TemplateTask['anchor']['at'] } })}
      />
      <div style={{ display: 'grid', gridTemplateColumns: isGroup ? '1fr' : '1.4fr 1fr 1fr', gap: 8, alignItems: 'end', marginTop: 8 }}>
        <Typed
          label={ANCHORS.find((anchor) => anchor.id === task.anchor.at)?.days ?? 'Days'}
          value={String(task.anchor.offset)}
          read={(text) => {
            const offset = wholeDays(text);
            return offset === null ? null : { anchor: { ...task.anchor, offset } };
          }}
          set={set}
        />
        {isGroup ? null : (
          <>
            <Typed
              label="Working days"
              value={String(task.days)}
              read={(text) => (/^\d{1,4}$/.test(text.trim()) ? { days: Number(text) } : null)}
              set={set}
            />
            <Typed
              label="Effort, hours"
              value={task.estimateMinutes === null ? '' : hours(task.estimateMinutes)}
              read={(text) => {
                if (text.trim() === '') return { estimateMinutes: null };
                const estimateMinutes = parseHours(text);
                return estimateMinutes === null ? null : { estimateMinutes };
              }}
              set={set}
            />
          </>
        )}
      </div>
      <PhasePlace task={task} content={content} />
    </SheetPart>
  );
}

function PhasePlace({ task, content }: { readonly task: TemplateTask; readonly content: TemplateContent }) {
  const parent = content.tasks.find((other) => other.id === task.parentId);
  return parent === undefined ? null : <p style={{ color: 'var(--ink-2)', fontSize: 12.5, marginTop: 6 }}>A part of “{parent.title}”.</p>;
}

interface TypedProps {
  readonly label: string;
  readonly value: string;
  readonly read: (text: string) => Partial<TemplateTask> | null;
  readonly set: PartProps['set'];
}

/** A short value typed in a field; saved as soon as it can be read. */
export function Typed({ label, value, read, set }: TypedProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const isWrong = typed !== null && read(typed) === null;
  return (
    <Field
      label={label}
      isTight
      value={typed ?? value}
      onChange={(text) => {
        setTyped(text);
        const change = read(text);
        if (change !== null) set(change);
      }}
      onBlur={() => (isWrong ? undefined : setTyped(null))}
      error={isWrong ? 'This cannot be read.' : undefined}
    />
  );
}

function Ties({ task, content, set }: PartProps & { readonly content: TemplateContent }) {
  const titleOf = (id: string): string => content.tasks.find((other) => other.id === id)?.title ?? '';
  const others = content.tasks.filter((other) => other.id !== task.id && !task.after.some((tie) => tie.taskId === other.id));
  const change = (taskId: string, next: Partial<TemplateTask['after'][number]>): void =>
    set({ after: task.after.map((tie) => (tie.taskId === taskId ? { ...tie, ...next } : tie)) });
  return (
    <SheetPart>
      <h3>Waits for</h3>
      {task.after.map((tie) => (
        <div
          key={tie.taskId}
          style={{ display: 'grid', gridTemplateColumns: 'minmax(0,1fr) 62px auto', gap: 6, alignItems: 'end', marginBottom: 8 }}
        >
          <Choose
            label={titleOf(tie.taskId)}
            choices={LINK_TYPE.map((id) => ({ id, name: LINK_TYPE_WORDS[id] }))}
            value={tie.type}
            onChange={(type) => change(tie.taskId, { type: type as LinkType })}
            isTight
          />
          <Typed
            label="± days"
            value={String(tie.lag)}
            read={(text) => {
              const lag = wholeDays(text);
              return lag === null ? null : { after: task.after.map((other) => (other.taskId === tie.taskId ? { ...other, lag } : other)) };
            }}
            set={set}
          />
          <Button
            kind="quiet"
            aria-label={`Do not wait for ${titleOf(tie.taskId)}`}
            onPress={() => set({ after: task.after.filter((other) => other.taskId !== tie.taskId) })}
          >
            ✕
          </Button>
        </div>
      ))}
      <Choose
        label="Another task to wait for"
        isLabelHidden
        placeholder="Wait for another task"
        choices={others.map((other) => ({ id: other.id, name: other.title }))}
        value={null}
        onChange={(taskId) => set({ after: [...task.after, { taskId, type: 'FS', lag: 0 }] })}
      />
    </SheetPart>
  );
}

interface LinesProps {
  readonly label: string;
  readonly add: string;
  readonly lines: readonly string[];
  readonly onChange: (lines: string[]) => void;
}

/** A list of short lines: each changed or emptied where it stands, one more typed below. */
export function Lines({ label, add, lines, onChange }: LinesProps) {
  const [text, setText] = useState('');
  return (
    <SheetPart>
      <h3>{label}</h3>
      {lines.map((line, place) => (
        <div key={`${place} ${line}`} style={{ display: 'flex', gap: 6 }}>
          <TextCell
            label={`${label} ${place + 1}`}
            value={line}
            onSave={(next) =>
              onChange(
                next.trim() === ''
                  ? lines.filter((_, other) => other !== place)
                  : lines.map((one, other) => (other === place ? next.trim() : one)),
              )
            }
          />
          <Button kind="quiet" aria-label={`Take ${line} away`} onPress={() => onChange(lines.filter((_, other) => other !== place))}>
            ✕
          </Button>
        </div>
      ))}
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (text.trim() === '') return;
          onChange([...lines, text.trim()]);
          setText('');
        }}
      >
        <Field label="" aria-label={add} placeholder={add} isTight value={text} onChange={setText} />
      </form>
    </SheetPart>
  );
}

function Subtasks({
  task,
  content,
  editor,
  onOpen,
}: Omit<PartProps, 'set'> & Pick<PresetProps, 'editor' | 'onOpen'> & { readonly content: TemplateContent }) {
  const [title, setTitle] = useState('');
  const parts = content.tasks.filter((other) => other.parentId === task.id);
  return (
    <SheetPart>
      <h3>Subtasks</h3>
      {parts.map((part) => (
        <div key={part.id} style={{ display: 'flex', justifyContent: 'space-between' }}>
          <Button kind="quiet" onPress={() => onOpen(part.id)} style={{ paddingLeft: 0 }}>
            {part.title}
          </Button>
          <Button
            kind="quiet"
            aria-label={`Take ${part.title} out of ${task.title}`}
            onPress={() => editor.edit(placeTask(part.id, { phaseId: task.phaseId }))}
          >
            out
          </Button>
        </div>
      ))}
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (title.trim() === '') return;
          editor.edit(addTask(newId(), { phaseId: task.phaseId, parentId: task.id, title: title.trim(), roleId: task.roleId }));
          setTitle('');
        }}
      >
        <Field label="" aria-label="Add a subtask" placeholder="Add a subtask" isTight value={title} onChange={setTitle} />
      </form>
    </SheetPart>
  );
}

function More({ task, set }: PartProps) {
  return (
    <SheetPart style={{ display: 'flex', flexDirection: 'column', gap: 8 }}>
      <Choose
        label="Priority"
        isTight
        choices={PRIORITY.map((id) => ({ id, name: `${id[0]?.toUpperCase()}${id.slice(1)}` }))}
        value={task.priority}
        onChange={(priority) => set({ priority })}
      />
      <Typed
        label="Deliverable, the thing the client gets"
        value={task.deliverable ?? ''}
        read={(text) => ({ deliverable: text.trim() === '' ? null : text.trim() })}
        set={set}
      />
      <Typed label="Labels, with commas between" value={task.labels.join(', ')} read={(text) => ({ labels: readLabels(text) })} set={set} />
      <Tick isSelected={task.isShownToClient} onChange={(isShownToClient) => set({ isShownToClient })}>
        Shown to the client
      </Tick>
      <Tick isSelected={task.isChargeable} onChange={(isChargeable) => set({ isChargeable })}>
        Chargeable
      </Tick>
    </SheetPart>
  );
}

function Outside({ task, set }: PartProps) {
  const { outside } = task;
  if (outside === null) {
    return (
      <SheetPart>
        <Button
          kind="quiet"
          style={{ padding: 0 }}
          onPress={() => set({ outside: { maker: 'An outside maker', turnaroundDays: 5, bufferDays: 2 } })}
        >
          Done by an outside maker
        </Button>
      </SheetPart>
    );
  }
  const days = (text: string): number | null => (/^\d{1,3}$/.test(text.trim()) ? Number(text) : null);
  return (
    <SheetPart>
      <h3>Done outside</h3>
      <Typed
        label="Who makes it"
        value={outside.maker}
        read={(text) => (text.trim() === '' ? null : { outside: { ...outside, maker: text.trim() } })}
        set={set}
      />
      <div style={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 8, margin: '6px 0' }}>
        <Typed
          label="They take, days"
          value={String(outside.turnaroundDays)}
          read={(text) => {
            const turnaroundDays = days(text);
            return turnaroundDays === null ? null : { outside: { ...outside, turnaroundDays } };
          }}
          set={set}
        />
        <Typed
          label="Our buffer, days"
          value={String(outside.bufferDays)}
          read={(text) => {
            const bufferDays = days(text);
            return bufferDays === null ? null : { outside: { ...outside, bufferDays } };
          }}
          set={set}
        />
      </div>
      <Button kind="quiet" style={{ padding: 0 }} onPress={() => set({ outside: null })}>
        Not outside any more
      </Button>
    </SheetPart>
  );
}
