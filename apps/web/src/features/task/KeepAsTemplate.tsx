import type { SavedBack, TaskSheet } from '@crew/contract';
import { useState } from 'react';
import { mutate } from 'swr';
import { call } from '../../api/client.ts';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { FormButton, SmallForm } from '../../ui/SmallForm.tsx';
import { notify } from '../../ui/toasts.tsx';

/** A task that went well, kept in the library by itself; with its subtasks, steps, links and files. */
export function KeepAsTemplate({ task }: { readonly task: TaskSheet }) {
  const button = (
    <Button kind="quiet" style={{ paddingLeft: 0 }}>
      Keep this task as a template…
    </Button>
  );
  return (
    <SheetPart>
      <FormButton button={button} label="Keep this task as a template">
        {(close) => <KeepForm task={task} onClose={close} />}
      </FormButton>
    </SheetPart>
  );
}

function KeepForm({ task, onClose }: { readonly task: TaskSheet; readonly onClose: () => void }) {
  const [name, setName] = useState(task.title);
  const keep = async (): Promise<void> => {
    const body = { name, taskId: task.id, measure: task.status === 'done' ? 'real' : 'planned' };
    const { notes } = await call<SavedBack>('POST', `/engagements/${task.engagement.id}/template`, body);
    await mutate('/templates');
    notify([`“${name.trim()}” is in the library.`, ...notes].join(' '));
    onClose();
  };
  return (
    <SmallForm action="Keep it" isReady={name.trim() !== ''} onSubmit={keep}>
      {(trouble) => <Field label="Name in the library" value={name} onChange={setName} error={trouble} autoFocus />}
    </SmallForm>
  );
}
