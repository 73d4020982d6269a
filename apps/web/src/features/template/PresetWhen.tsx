import styled from 'styled-components';
import { Note } from '../../ui/text.tsx';
import { DEPENDENCY_TYPE, DEPENDENCY_TYPE_WORDS, type DependencyType } from '@crew/contract';
import type { TemplateContent, TemplateTask } from '@crew/core';
import { Button } from '../../ui/Button.tsx';
import { Choose } from '../../ui/Field.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { hours, parseHours } from '../../words/format.ts';
import { Typed, type PresetPartProps } from './preset-fields.tsx';

const DependencyForm = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 62px auto;
  gap: 6px;
  align-items: end;
  margin-bottom: 8px;
`;

const ANCHORS: readonly { readonly id: TemplateTask['anchor']['at']; readonly name: string; readonly days: string }[] = [
  { id: 'phase-start', name: 'starts after the phase starts', days: 'Days after the phase starts' },
  { id: 'engagement-start', name: 'starts after the engagement starts', days: 'Days after the engagement starts' },
  { id: 'before-phase-end', name: 'ends before the phase ends', days: 'Days before the phase ends' },
  { id: 'before-promise', name: 'ends before the promise', days: 'Days before the promise' },
];
const wholeDays = (text: string): number | null => (/^-?\d{1,4}$/.test(text.trim()) ? Number(text) : null);

/** When a task happens and how much of it there is: anchor, length, effort. */
export function PresetWhen({
  task,
  content,
  isGroup,
  set,
}: PresetPartProps & { readonly content: TemplateContent; readonly isGroup: boolean }) {
  const anchors = isGroup ? ANCHORS.filter((anchor) => !anchor.id.startsWith('before')) : ANCHORS;
  return (
    <SheetPart>
      <h3>When and how much</h3>
      {isGroup ? <Note $isSmall>Its subtasks decide its length and effort.</Note> : null}
      <Choose
        isTight
        label="Unless something delays it, it"
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
  return parent === undefined ? null : <Note $isSmall>A part of “{parent.title}”.</Note>;
}

/** What a task waits for, each by its kind and days between. */
export function PresetDependencies({ task, content, set }: PresetPartProps & { readonly content: TemplateContent }) {
  const titleOf = (id: string): string => content.tasks.find((other) => other.id === id)?.title ?? '';
  const others = content.tasks.filter((other) => other.id !== task.id && !task.after.some((dependency) => dependency.taskId === other.id));
  const change = (taskId: string, next: Partial<TemplateTask['after'][number]>): void =>
    set({ after: task.after.map((dependency) => (dependency.taskId === taskId ? { ...dependency, ...next } : dependency)) });
  return (
    <SheetPart>
      <h3>Waits for</h3>
      {task.after.map((dependency) => (
        <DependencyForm key={dependency.taskId}>
          <Choose
            label={titleOf(dependency.taskId)}
            choices={DEPENDENCY_TYPE.map((id) => ({ id, name: DEPENDENCY_TYPE_WORDS[id] }))}
            value={dependency.type}
            onChange={(type) => change(dependency.taskId, { type: type as DependencyType })}
            isTight
          />
          <Typed
            label="± days"
            value={String(dependency.lag)}
            read={(text) => {
              const lag = wholeDays(text);
              return lag === null
                ? null
                : { after: task.after.map((other) => (other.taskId === dependency.taskId ? { ...other, lag } : other)) };
            }}
            set={set}
          />
          <Button
            kind="quiet"
            aria-label={`Remove dependency on ${titleOf(dependency.taskId)}`}
            onPress={() => set({ after: task.after.filter((other) => other.taskId !== dependency.taskId) })}
          >
            ✕
          </Button>
        </DependencyForm>
      ))}
      <Choose
        label="New dependency"
        isLabelHidden
        placeholder="Add dependency"
        choices={others.map((other) => ({ id: other.id, name: other.title }))}
        value={null}
        onChange={(taskId) => set({ after: [...task.after, { taskId, type: 'FS', lag: 0 }] })}
      />
    </SheetPart>
  );
}
