import type { TaskSheet as Task } from '@crew/contract';
import { useState } from 'react';
import { Dialog, DialogTrigger } from 'react-aria-components';
import { mutate } from 'swr';
import { call } from '../../api/client.ts';
import { refreshAll } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { Field, PopoverPanel } from '../../ui/Field.tsx';
import { notify } from '../../ui/toasts.tsx';
import { hourWords, parseHours } from '../../words/format.ts';

/** Time by hand, for oneself. */
export function LogTime({ task, today }: { readonly task: Task; readonly today: string }) {
  return (
    <DialogTrigger>
      <Button>Log time</Button>
      <PopoverPanel>
        <Dialog aria-label={`Log time on ${task.title}`} style={{ outline: 'none', padding: 9, width: 250 }}>
          {({ close }) => <LogTimeForm task={task} today={today} onClose={close} />}
        </Dialog>
      </PopoverPanel>
    </DialogTrigger>
  );
}

function LogTimeForm({ task, today, onClose }: { readonly task: Task; readonly today: string; readonly onClose: () => void }) {
  const [text, setText] = useState('');
  const [day, setDay] = useState(today);
  const [trouble, setTrouble] = useState<string>();
  const save = async (): Promise<void> => {
    const minutes = parseHours(text);
    if (minutes === null || minutes === 0) return setTrouble('Write hours as 1.5, 1:30 or 90m.');
    try {
      await mutate(`/tasks/${task.id}`, await call<Task>('POST', `/tasks/${task.id}/time`, { day, minutes }), { revalidate: false });
      await refreshAll();
      notify(`${hourWords(minutes)} logged on “${task.title}”.`);
      onClose();
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : 'This was not saved.');
    }
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <Field label="Hours" value={text} onChange={setText} error={trouble} autoFocus />
      <DayField label="Day" today={today} value={day} onChange={setDay} />
      <Button kind="primary" type="submit">
        Log it
      </Button>
    </form>
  );
}
