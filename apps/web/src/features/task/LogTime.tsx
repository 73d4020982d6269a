import { performOrThrow } from '../../session/perform.ts';
import type { TaskSheet as Task } from '@crew/contract';
import { useState } from 'react';
import { ApiError, call } from '../../api/client.ts';
import { Button } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { Field } from '../../ui/Field.tsx';
import { FormButton, SmallForm } from '../../ui/SmallForm.tsx';
import { hourWords, parseHours } from '../../words/format.ts';

/** Time by hand, for oneself. */
export function LogTime({ task, today }: { readonly task: Task; readonly today: string }) {
  return (
    <FormButton button={<Button>Log time</Button>} label={`Log time on ${task.title}`} width={250}>
      {(close) => <LogTimeForm task={task} today={today} onClose={close} />}
    </FormButton>
  );
}

function LogTimeForm({ task, today, onClose }: { readonly task: Task; readonly today: string; readonly onClose: () => void }) {
  const [text, setText] = useState('');
  const [day, setDay] = useState(today);
  const save = async (): Promise<void> => {
    const minutes = parseHours(text);
    if (minutes === null || minutes === 0) throw new ApiError({ code: 'invalid-input', message: 'Write hours as 1.5, 1:30 or 90m.' });
    await performOrThrow({
      send: () => call<Task>('POST', `/tasks/${task.id}/time`, { day, minutes }),
      said: `${hourWords(minutes)} logged on “${task.title}”.`,
    });
    onClose();
  };
  return (
    <SmallForm action="Log it" onSubmit={save}>
      {(trouble) => (
        <>
          <Field label="Hours" value={text} onChange={setText} error={trouble} autoFocus />
          <DayField label="Day" today={today} value={day} onChange={setDay} />
        </>
      )}
    </SmallForm>
  );
}
