import type { IsoDay } from '@crew/core';
import { performOrThrow } from '../../session/perform.ts';
import { RepeatTask, type TaskSeriesView, type TaskSheet } from '@crew/contract';
import { call } from '../../api/client.ts';
import { useTaskSeries } from '../../api/queries.ts';
import { FormButton, SmallForm } from '../../ui/form/SmallForm.tsx';
import { useInputForm, type Reading } from '../../ui/form/use-input-form.ts';
import { Tick } from '../../ui/Tick.tsx';
import { ruleWords } from '../../words/rhythm.ts';
import { ValueButton } from '../task/editors.tsx';
import { FORM_WIDTH, repeatWords } from './repeat-words.tsx';
import { RuleEditor, useRuleDraft } from './RuleEditor.tsx';

/** What can repeat: work of its own that is not over. */
const mayRepeat = (task: TaskSheet): boolean =>
  !task.isGroup && task.status !== 'done' && task.status !== 'dropped' && task.kind !== 'milestone';

/** Whether a task repeats; one that does not can be made to. */
export function RepeatsValue({ task, today }: { readonly task: TaskSheet; readonly today: IsoDay }) {
  const { data: series } = useTaskSeries(task.seriesId);
  if (task.seriesId !== null) return <>{series === undefined ? ' ' : repeatWords(series, today)}</>;
  if (!mayRepeat(task)) return <>no</>;
  return (
    <FormButton label={`How ${task.title} repeats`} width={FORM_WIDTH} button={<ValueButton>no</ValueButton>}>
      {(close) => <RepeatForm task={task} today={today} onDone={close} />}
    </FormButton>
  );
}

function RepeatForm({ task, today, onDone }: { readonly task: TaskSheet; readonly today: IsoDay; readonly onDone: () => void }) {
  const editing = useRuleDraft({ rule: null, onClosed: 'after', day: task.start });
  const form = useInputForm({
    rules: RepeatTask,
    typed: { isPhaseOnly: false, isDropped: false },
    input: ({ isPhaseOnly, isDropped }): Reading<RepeatTask> => ({
      ...editing.input,
      isPhaseOnly,
      whenMissed: isDropped ? 'drop' : 'keep',
    }),
    send: async (input) => {
      await performOrThrow({
        send: () => call<TaskSeriesView>('POST', `/tasks/${task.id}/series`, input),
        said: ({ rule }) => `“${task.title}” repeats ${ruleWords(rule, today)}. Upcoming ones now count in the workload.`,
      });
      onDone();
    },
  });
  const hasBegun = task.status !== 'queued' || task.loggedMinutes > 0;
  return (
    <SmallForm form={form} action="Start repeating" gap={9}>
      <RuleEditor
        editing={editing}
        from={task.start}
        {...(hasBegun ? { first: task.start } : {})}
        today={today}
        lasting={form.values.isPhaseOnly ? 'its phase ends' : 'the engagement ends'}
      />
      <Tick {...form.bindTick('isPhaseOnly')}>only while “{task.phase}” runs</Tick>
      <Tick {...form.bindTick('isDropped')}>drop a missed one when the next one starts</Tick>
    </SmallForm>
  );
}
