import type { IsoDay } from '@crew/core';
import { performOrThrow } from '../../session/perform.ts';
import { LogTime as LogTimeInput, type TaskSheet as Task } from '@crew/contract';
import { call } from '../../api/client.ts';
import { Button } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { Field } from '../../ui/Field.tsx';
import { FormButton, SmallForm } from '../../ui/form/SmallForm.tsx';
import { dayTyped, minutesTyped } from '../../ui/form/typed.ts';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { hourWords } from '../../words/format.ts';

/** Time by hand, for oneself. */
export function LogTime({ task, today }: { readonly task: Task; readonly today: IsoDay }) {
  return (
    <FormButton button={<Button>Log time</Button>} label={`Log time on ${task.title}`} width={250}>
      {(close) => <LogTimeForm task={task} today={today} onClose={close} />}
    </FormButton>
  );
}

function LogTimeForm({ task, today, onClose }: { readonly task: Task; readonly today: IsoDay; readonly onClose: () => void }) {
  const form = useInputForm({
    rules: LogTimeInput,
    typed: { minutes: '', day: today as IsoDay | '' },
    input: ({ minutes, day }) => ({ minutes: minutesTyped(minutes), day: dayTyped(day) }),
    send: async (input) => {
      await performOrThrow({
        send: () => call<Task>('POST', `/tasks/${task.id}/time`, input),
        said: `${hourWords(input.minutes)} logged on “${task.title}”.`,
      });
      onClose();
    },
  });
  return (
    <SmallForm form={form} action="Log time">
      <Field {...form.bind('minutes')} label="Hours" autoFocus />
      <DayField {...form.bind('day')} label="Day" today={today} />
    </SmallForm>
  );
}
