import { Note } from '../../ui/text.tsx';
import { KeepVersion } from '@crew/contract';
import { DialogTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { Field, PopoverPanel } from '../../ui/Field.tsx';
import { FormDialog, SmallForm } from '../../ui/form/SmallForm.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { notify } from '../../ui/toasts.tsx';
import { useWho } from '../../session/session.tsx';
import { instantWords } from '../../words/format.ts';
import type { TemplateEditor } from './use-template-editor.ts';

const Strip = styled.div<{ $isBad: boolean }>`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 12px;
  margin-bottom: 12px;
  padding: 8px 12px;
  border: 1px solid ${({ $isBad }) => ($isBad ? 'var(--brick)' : 'var(--amber)')};
  border-radius: 7px;
  background: ${({ $isBad }) => ($isBad ? 'var(--brick-soft)' : 'var(--amber-soft)')};
`;

/** How the working copy stands to what is saved, when there is something to say about it. */
export function SavingNote({ editor }: { readonly editor: TemplateEditor }) {
  const { saving, keepMine, keepTheirs, undo, draft } = editor;
  const me = useWho();
  if (saving.kind === 'met') {
    return (
      <Strip $isBad={false} role="alert">
        <span>Somebody changed this template since you opened it. Nothing is lost: choose which version to keep.</span>
        <Button kind="primary" onPress={keepMine}>
          Keep my version
        </Button>
        <Button onPress={keepTheirs}>Use their version</Button>
      </Strip>
    );
  }
  if (draft !== null && saving.kind === 'saved') {
    return (
      <Strip $isBad={false} role="alert">
        <span>
          You have unsaved changes {instantWords(draft.at, me)}: {draft.why}
        </span>
        <Button kind="primary" onPress={editor.resumeDraft}>
          Continue editing
        </Button>
        <Button onPress={editor.discardDraft}>Discard changes</Button>
      </Strip>
    );
  }
  if (saving.kind !== 'faulty' && saving.kind !== 'lost') return null;
  return (
    <Strip $isBad role="alert">
      <span>Not saved yet: {saving.message}</span>
      {undo === null ? null : <Button onPress={undo}>Undo</Button>}
    </Strip>
  );
}

/** Makes the working copy the next version, with a few words on what is new in it. */
export function KeepButton({ editor }: { readonly editor: TemplateEditor }) {
  const { view, saving } = editor;
  if (!view.isChanged) return null;
  return (
    <DialogTrigger>
      <Button kind="primary" isDisabled={saving.kind !== 'saved'}>
        Save as version {view.version + 1}…
      </Button>
      <PopoverPanel>
        <FormDialog $width={300} aria-label={`Save as version ${view.version + 1}`}>
          {({ close }) => <KeepForm editor={editor} onClose={close} />}
        </FormDialog>
      </PopoverPanel>
    </DialogTrigger>
  );
}

function KeepForm({ editor, onClose }: { readonly editor: TemplateEditor; readonly onClose: () => void }) {
  const next = editor.view.version + 1;
  const form = useInputForm({
    rules: KeepVersion,
    typed: { note: '' },
    input: ({ note }) => ({ revision: editor.view.revision, note }),
    send: async ({ note = '' }) => {
      if (!(await editor.keepVersion(note))) return;
      notify(`Version ${next} saved. Running engagements keep the version they were made from.`);
      onClose();
    },
  });
  return (
    <SmallForm form={form} action="Save">
      <Note>New engagements use it from now on. Running ones do not change.</Note>
      <Field {...form.bind('note')} label="What changed" isTight autoFocus placeholder="e.g. Oak takes longer" />
    </SmallForm>
  );
}
