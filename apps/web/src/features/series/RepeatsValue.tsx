import { Trouble } from '../../ui/text.tsx';
import { performOrThrow } from '../../session/perform.ts';
import type { TaskSeriesView, TaskSheet } from '@crew/contract';
import { useState } from 'react';
import { call } from '../../api/client.ts';
import { useTaskSeries } from '../../api/queries.ts';
import { FormButton, SmallForm } from '../../ui/SmallForm.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { ruleWords } from '../../words/rhythm.ts';
import { ValueButton } from '../task/editors.tsx';
import { FORM_WIDTH, repeatWords } from './repeat-words.tsx';
import { RuleEditor, useRuleDraft } from './RuleEditor.tsx';

/** What can repeat: work of its own that is not over. */
const mayRepeat = (task: TaskSheet): boolean =>
  !task.isGroup && task.status !== 'done' && task.status !== 'dropped' && task.kind !== 'milestone';

/** Whether a task repeats; one that does not can be made to. */
export function RepeatsValue({ task, today }: { readonly task: TaskSheet; readonly today: string }) {
  const { data: series } = useTaskSeries(task.seriesId);
  if (task.seriesId !== null) return <>{series === undefined ? ' ' : repeatWords(series, today)}</>;
  if (!mayRepeat(task)) return <>no</>;
  return (
    <FormButton label={`How ${task.title} repeats`} width={FORM_WIDTH} button={<ValueButton>no</ValueButton>}>
      {(close) => <RepeatForm task={task} today={today} onDone={close} />}
    </FormButton>
  );
}

function RepeatForm({ task, today, onDone }: { readonly task: TaskSheet; readonly today: string; readonly onDone: () => void }) {
  const editing = useRuleDraft({ rule: null, onClosed: 'after', day: task.start });
  const [isPhaseOnly, setPhaseOnly] = useState(false);
  const [isDropped, setDropped] = useState(false);
  const repeat = async (): Promise<void> => {
    const body = { rule: editing.rule, onClosed: editing.onClosed, whenMissed: isDropped ? 'drop' : 'keep', isPhaseOnly };
    await performOrThrow({
      send: () => call<TaskSeriesView>('POST', `/tasks/${task.id}/series`, body),
      said: ({ rule }) => `“${task.title}” repeats ${ruleWords(rule, today)}. Its next ones count in the load from now on.`,
    });
    onDone();
  };
  return (
    <SmallForm action="Let it repeat" isReady={editing.rule !== null} onSubmit={repeat}>
      {(trouble) => (
        <div style={{ display: 'flex', flexDirection: 'column', gap: 9, marginBottom: 10 }}>
          <RuleEditor
            editing={editing}
            from={task.start}
            first={task.start}
            today={today}
            lasting={isPhaseOnly ? 'its phase ends' : 'the engagement ends'}
          />
          <Tick isSelected={isPhaseOnly} onChange={setPhaseOnly}>
            only while “{task.phase}” runs
          </Tick>
          <Tick isSelected={isDropped} onChange={setDropped}>
            drop one that was missed when the next one comes
          </Tick>
          <Trouble words={trouble} />
        </div>
      )}
    </SmallForm>
  );
}
