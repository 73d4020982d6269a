import type { DryRun, TemplatePhaseView, TemplateTaskView } from '@crew/contract';
import type { TemplateContent, TemplatePhase, TemplateTask, IsoDay } from '@crew/core';
import { useState } from 'react';
import styled, { css } from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { Muted, Panel } from '../../ui/layout.tsx';
import { TaskGlyph } from '../../ui/marks.tsx';
import { Stack, Toned } from '../../ui/text.tsx';
import { phone } from '../../ui/tokens.ts';
import { dayScale, type Scale } from '../../ui/Track.tsx';
import { count, hours, hourWords, parseHours, spanWords } from '../../words/format.ts';
import { anchorWords, whenOf } from './anchor-words.ts';
import { TextCell } from '../../ui/TextCell.tsx';
import { FormButton } from '../../ui/form/SmallForm.tsx';
import { addPhase, addTask, composeKept, editPhase, editTask, newId } from './content.ts';
import { KeptChoice, PutKept } from './KeptPicker.tsx';
import { OneLine } from './OneLine.tsx';
import { leavesUnder, linesOf, partsOf, taskListOf, topsOf, type TaskLine } from '../task-list/task-list.ts';
import type { TemplateEditor } from './use-template-editor.ts';

const DaysCell = styled(TextCell)`
  width: 58px;
`;

const Grid = styled.div`
  display: grid;
  grid-template-columns: minmax(180px, 1.1fr) 146px 66px minmax(150px, 1fr) minmax(180px, 1.7fr);
  align-items: center;
  gap: 0 12px;
  padding: 0 14px;
  ${phone} {
    grid-template-columns: minmax(0, 1fr) auto;
    > .wide {
      display: none;
    }
  }
`;
const HeadRow = styled(Grid)`
  height: 28px;
  font-size: 12px;
  color: var(--ink-2);
  border-bottom: 1px solid var(--line);
`;
const PhaseRow = styled(Grid)<{ $isOpen: boolean }>`
  min-height: 36px;
  background: ${({ $isOpen }) => ($isOpen ? 'var(--petrol-soft)' : 'var(--sunk)')};
  border-top: 1px solid var(--line);
  border-bottom: 1px solid var(--line);
  h2 {
    display: flex;
    align-items: baseline;
    font-size: 14.5px;
  }
  small {
    font:
      400 12px 'Hanken Grotesk Variable',
      sans-serif;
    color: var(--ink-2);
    margin-left: 7px;
  }
`;
const TaskRow = styled(Grid)<{ $isOpen: boolean }>`
  min-height: 29px;
  border-top: 1px solid var(--line-2);
  background: ${({ $isOpen }) => ($isOpen ? 'var(--petrol-soft)' : 'transparent')};
  > span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;
const Name = styled.span<{ $depth: number }>`
  display: flex;
  align-items: center;
  gap: 8px;
  padding-left: ${({ $depth }) => $depth * 16}px;
`;
const cut = css`
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
`;
const Cut = styled.span`
  ${cut}
`;
const CutNote = styled(Muted)`
  ${cut}
`;
const CutButton = styled(Button)`
  ${cut}
  display: block;
  max-width: 100%;
  color: var(--ink-2);
  font-weight: 400;
`;
const PhaseFoot = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 14px;
  padding: 3px 14px 7px 42px;
`;
const OutlineFoot = styled.div`
  padding: 12px 14px;
  border-top: 1px solid var(--line);
`;
const Bars = styled.span`
  position: relative;
  height: 14px;
  overflow: visible !important;
`;
const Bar = styled.i<{ $tone: 'phase' | 'task' | 'client' }>`
  position: absolute;
  top: 2px;
  height: 10px;
  min-width: 5px;
  border-radius: 2.5px;
  background: ${({ $tone }) => ($tone === 'phase' ? 'var(--petrol)' : $tone === 'client' ? 'var(--amber-soft)' : 'var(--petrol-soft)')};
  border: 1px solid ${({ $tone }) => ($tone === 'client' ? 'var(--amber)' : $tone === 'phase' ? 'var(--petrol)' : 'var(--petrol-mid)')};
`;

interface OutlineProps {
  /** Null while there is nothing to schedule: what is there is shown without days. */
  readonly run: DryRun | null;
  readonly today: IsoDay;
  /** Left out for those who only read. */
  readonly editor: TemplateEditor | null;
  readonly openPart: string | null;
  readonly onOpen: (id: string) => void;
}

/** Phases and tasks with who, how much and when in sentences, beside the dry run on the real calendar. */
export function TemplateOutline({ run, today, editor, openPart, onOpen }: OutlineProps) {
  const scale = dayScale(run?.start ?? today, run?.finish ?? today);
  const phaseDates = new Map(run?.phases.map((phase) => [phase.id, phase]));
  const taskDates = new Map(run?.tasks.map((task) => [task.id, task]));
  const content = editor?.content ?? null;
  return (
    <Panel>
      <HeadRow aria-hidden="true">
        <span>what</span>
        <span className="wide">who</span>
        <span>effort</span>
        <span className="wide">when</span>
        <span className="wide">{run === null ? '' : spanWords(run.start, run.finish, today)}</span>
      </HeadRow>
      {(content?.phases ?? run?.phases ?? []).map((phase) => (
        <section key={phase.id} aria-label={phase.name}>
          <PhaseLine
            phase={phase}
            dates={phaseDates.get(phase.id)}
            scale={scale}
            today={today}
            editor={editor}
            isOpen={openPart === phase.id}
            onOpen={onOpen}
          />
          {linesIn(content?.tasks ?? run?.tasks ?? [], phase.id).map(({ task, depth }) => (
            <TaskLine
              key={task.id}
              task={task}
              depth={depth}
              dates={taskDates.get(task.id)}
              scale={scale}
              today={today}
              editor={editor}
              isOpen={openPart === task.id}
              onOpen={onOpen}
            />
          ))}
          {editor === null ? null : (
            <PhaseFoot>
              <OneLine
                label={`New task in ${phase.name}`}
                button="Add a task"
                onAdd={(title) => editor.edit(addTask(newId(), { phaseId: phase.id, title }))}
              />
              <KeptButton editor={editor} phase={phase} />
            </PhaseFoot>
          )}
        </section>
      ))}
      {editor === null ? null : (
        <OutlineFoot>
          <OneLine label="Name of a new phase" button="Add a phase" onAdd={(name) => editor.edit(addPhase(newId(), name))} />
        </OutlineFoot>
      )}
    </Panel>
  );
}

/** A task kept in the library, put into a phase with all it presets. */
function KeptButton({
  editor,
  phase,
}: {
  readonly editor: TemplateEditor;
  readonly phase: { readonly id: string; readonly name: string };
}) {
  const [kept, setKept] = useState<string | null>(null);
  return (
    <FormButton
      button={
        <Button kind="quiet" aria-label={`Add from library to ${phase.name}`}>
          Add from library…
        </Button>
      }
      label={`Add from library to ${phase.name}`}
      width={300}
    >
      {(close) => (
        <Stack gap={8}>
          <KeptChoice value={kept} onChange={setKept} />
          {kept === null ? null : (
            <PutKept
              templateId={kept}
              onPut={(source) => {
                editor.edit(composeKept(source, phase.id));
                close();
              }}
            />
          )}
        </Stack>
      )}
    </FormButton>
  );
}

type AnyTask = TemplateTask | TemplateTaskView;

/** The tasks of a phase as lines. */
function linesIn(tasks: readonly AnyTask[], phaseId: string): TaskLine<AnyTask>[] {
  const list = taskListOf(tasks.filter((task) => task.phaseId === phaseId));
  return linesOf(list, topsOf(list));
}

interface LineProps {
  readonly scale: Scale;
  readonly today: IsoDay;
  readonly editor: TemplateEditor | null;
  readonly isOpen: boolean;
  readonly onOpen: (id: string) => void;
}

function PhaseLine({
  phase,
  dates,
  scale,
  today,
  editor,
  isOpen,
  onOpen,
}: LineProps & { readonly phase: TemplatePhase | TemplatePhaseView; readonly dates: TemplatePhaseView | undefined }) {
  return (
    <PhaseRow $isOpen={isOpen}>
      <h2 title={phase.stateLine}>
        {editor === null ? (
          phase.name
        ) : (
          <TextCell
            label={`Name of the phase ${phase.name}`}
            value={phase.name}
            onSave={(name) => (name.trim() === '' ? false : editor.edit(editPhase(phase.id, { name: name.trim() })))}
            isFitted
          />
        )}
        {dates === undefined ? null : <small>{count(dates.workingDays, 'working day')}</small>}
      </h2>
      <span className="wide">{dates?.role}</span>
      <span>{phase.rounds === null ? '' : count(phase.rounds, 'round')}</span>
      {editor === null ? (
        <Muted className="wide">{gateWords(phase)}</Muted>
      ) : (
        <span className="wide">
          <Button kind="text" aria-label={`${phase.name}: state line, gate and more`} onPress={() => onOpen(phase.id)}>
            {gateWords(phase)}
          </Button>
        </span>
      )}
      {dates === undefined ? null : (
        <PlaceBar
          scale={scale}
          start={dates.start}
          finish={dates.finish}
          tone="phase"
          title={`${phase.name}, ${spanWords(dates.start, dates.finish, today)}`}
        />
      )}
    </PhaseRow>
  );
}

const gateWords = (phase: { readonly checks: readonly unknown[] }): string =>
  phase.checks.length === 0 ? 'no gate' : `gate: ${count(phase.checks.length, 'check')}`;

const isContent = (task: AnyTask): task is TemplateTask => 'helperRoleIds' in task;

type TaskLineProps = LineProps & { readonly task: AnyTask; readonly depth: number; readonly dates: TemplateTaskView | undefined };

function TaskLine({ task, depth, dates, scale, today, editor, isOpen, onOpen }: TaskLineProps) {
  const isClients = task.kind === 'client';
  return (
    <TaskRow $isOpen={isOpen}>
      <Name $depth={depth} title={task.title}>
        <TaskGlyph status="queued" />
        {editor === null ? (
          <Cut>{task.title}</Cut>
        ) : (
          <TextCell
            label={`Title of ${task.title}`}
            value={task.title}
            onSave={(title) => (title.trim() === '' ? false : editor.edit(editTask(task.id, { title: title.trim() })))}
          />
        )}
      </Name>
      {isClients ? (
        <Toned $tone="waiting" className="wide">
          the client
        </Toned>
      ) : (
        <span className="wide" title={dates?.person === null ? undefined : dates?.person?.name}>
          {dates?.person?.name ?? dates?.role ?? '—'}
        </span>
      )}
      <EffortCell task={task} editor={editor} />
      <WhenCell task={task} editor={editor} onOpen={onOpen} />
      {dates === undefined ? null : (
        <PlaceBar
          scale={scale}
          start={dates.start}
          finish={dates.finish}
          tone={isClients ? 'client' : 'task'}
          title={`${spanWords(dates.start, dates.finish, today)} · ${count(dates.slack, 'day')} of slack`}
        />
      )}
    </TaskRow>
  );
}

type CellProps = Pick<LineProps, 'editor'> & { readonly task: AnyTask };

/** Its effort, typed where it has one of its own. */
function EffortCell({ task, editor }: CellProps) {
  const { minutes, isSum } = effortOf(task, editor?.content.tasks ?? []);
  if (editor === null || isSum || task.kind === 'client') return <span>{minutes === null ? '—' : hourWords(minutes)}</span>;
  return (
    <span>
      <DaysCell
        label={`Effort of ${task.title}, in hours`}
        value={minutes === null ? '' : `${hours(minutes)} h`}
        placeholder="—"
        onSave={(text) => {
          const typed = text.trim() === '' ? null : parseHours(text);
          if (text.trim() !== '' && typed === null) return false;
          editor.edit(editTask(task.id, { estimateMinutes: typed }));
        }}
      />
    </span>
  );
}

/** When it is, in a sentence; who edits opens all it presets with it. */
function WhenCell({ task, editor, onOpen }: CellProps & Pick<LineProps, 'onOpen'>) {
  const when = anchorWords(isContent(task) ? whenOf(task, editor?.content as TemplateContent) : task);
  if (editor === null) {
    return (
      <CutNote className="wide" title={when}>
        {when}
      </CutNote>
    );
  }
  return (
    <span className="wide" title={when}>
      <CutButton kind="text" aria-label={`${task.title}: when, who and all it presets`} onPress={() => onOpen(task.id)}>
        {when}
      </CutButton>
    </span>
  );
}

/** What a task takes; with subtasks it is what they take. */
function effortOf(task: AnyTask, all: readonly TemplateTask[]): { readonly minutes: number | null; readonly isSum: boolean } {
  const list = taskListOf<AnyTask>(all);
  const isSum = partsOf(list, task.id).length > 0 || ('isGroup' in task && task.isGroup);
  if (!isSum) return { minutes: task.estimateMinutes, isSum };
  return { minutes: leavesUnder(list, [task]).reduce((sum, leaf) => sum + (leaf.estimateMinutes ?? 0), 0), isSum };
}

interface PlaceBarProps {
  readonly scale: Scale;
  readonly start: IsoDay;
  readonly finish: IsoDay;
  readonly tone: 'phase' | 'task' | 'client';
  readonly title: string;
}

function PlaceBar({ scale, start, finish, tone, title }: PlaceBarProps) {
  const left = scale(start);
  return (
    <Bars className="wide" title={title}>
      <Bar $tone={tone} style={{ left: `${left}%`, width: `${scale(finish, 'end') - left}%` }} />
    </Bars>
  );
}
