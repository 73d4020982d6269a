import type { SavedBack, TaskSheet } from '@crew/contract';
import { useState } from 'react';
import { Dialog, DialogTrigger } from 'react-aria-components';
import { mutate } from 'swr';
import { call } from '../../api/client.ts';
import { Button } from '../../ui/Button.tsx';
import { Field, PopoverPanel } from '../../ui/Field.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { notify } from '../../ui/toasts.tsx';

/** A task that went well, kept in the library by itself; with its subtasks, steps and links. */
export function KeepAsTemplate({ task }: { readonly task: TaskSheet }) {
  return (
    <SheetPart>
      <DialogTrigger>
        <Button kind="quiet" style={{ paddingLeft: 0 }}>
          Keep this task as a template…
        </Button>
        <PopoverPanel>
          <Dialog aria-label="Keep this task as a template" style={{ outline: 'none', padding: 10, width: 290 }}>
            {({ close }) => <KeepForm task={task} onClose={close} />}
          </Dialog>
        </PopoverPanel>
      </DialogTrigger>
    </SheetPart>
  );
}

function KeepForm({ task, onClose }: { readonly task: TaskSheet; readonly onClose: () => void }) {
  const [name, setName] = useState(task.title);
  const [trouble, setTrouble] = useState<string>();
  const keep = async (): Promise<void> => {
    try {
      const body = { name, taskId: task.id, measure: task.status === 'done' ? 'real' : 'planned' };
      const { notes } = await call<SavedBack>('POST', `/engagements/${task.engagement.id}/template`, body);
      await mutate('/templates');
      notify([`“${name.trim()}” is in the library.`, ...notes].join(' '));
      onClose();
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : 'This was not saved.');
    }
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <Field label="Name in the library" value={name} onChange={setName} error={trouble} autoFocus />
      <Button kind="primary" type="submit" isDisabled={name.trim() === ''}>
        Keep it
      </Button>
    </form>
  );
}
