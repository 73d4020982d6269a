import { SaveBack, type SavedBack, type TaskSheet } from '@crew/contract';
import { performOrThrow } from '../../session/perform.ts';
import { call } from '../../api/client.ts';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { FormButton, SmallForm } from '../../ui/form/SmallForm.tsx';
import { useInputForm, type Reading } from '../../ui/form/use-input-form.ts';

/** A task that went well, kept in the library by itself; with its subtasks, steps, web links and files. */
export function KeepAsTemplate({ task }: { readonly task: TaskSheet }) {
  const button = (
    <Button isFlush kind="quiet">
      Save as template…
    </Button>
  );
  return (
    <SheetPart>
      <FormButton button={button} label="Save as template">
        {(close) => <KeepForm task={task} onClose={close} />}
      </FormButton>
    </SheetPart>
  );
}

function KeepForm({ task, onClose }: { readonly task: TaskSheet; readonly onClose: () => void }) {
  const form = useInputForm({
    rules: SaveBack,
    typed: { name: task.title },
    input: ({ name }): Reading<SaveBack> => ({ name, taskId: task.id, measure: task.status === 'done' ? 'real' : 'planned' }),
    send: async (input) => {
      await performOrThrow({
        send: () => call<SavedBack>('POST', `/engagements/${task.engagement.id}/template`, input),
        said: ({ notes }) => [`“${input.name.trim()}” is saved in the library.`, ...notes].join(' '),
      });
      onClose();
    },
  });
  return (
    <SmallForm form={form} action="Save">
      <Field {...form.bind('name')} label="Name in the library" autoFocus />
    </SmallForm>
  );
}
