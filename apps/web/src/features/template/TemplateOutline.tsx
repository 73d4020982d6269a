import type { DryRun } from '@crew/contract';
import type { IsoDay } from '@crew/core';
import { useState } from 'react';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { FormButton } from '../../ui/form/SmallForm.tsx';
import { Panel } from '../../ui/layout.tsx';
import { Stack } from '../../ui/text.tsx';
import { dayScale } from '../../ui/Track.tsx';
import { spanWords } from '../../words/format.ts';
import { linesOf, taskListOf, topsOf, type TaskLine as ListLine } from '../task-list/task-list.ts';
import { addPhase, addTask, composeKept, newId } from './content.ts';
import { KeptChoice, PutKept } from './KeptPicker.tsx';
import { OneLine } from './OneLine.tsx';
import { Grid } from './outline-parts.tsx';
import { PhaseLine } from './TemplatePhaseLine.tsx';
import { TaskLine, type AnyTask } from './TemplateTaskLine.tsx';
import type { TemplateEditor } from './use-template-editor.ts';

const HeadRow = styled(Grid)`
  height: 28px;
  font-size: 12px;
  color: var(--ink-2);
  border-bottom: 1px solid var(--line);
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

/** The tasks of a phase as lines. */
function linesIn(tasks: readonly AnyTask[], phaseId: string): ListLine<AnyTask>[] {
  const list = taskListOf(tasks.filter((task) => task.phaseId === phaseId));
  return linesOf(list, topsOf(list));
}
