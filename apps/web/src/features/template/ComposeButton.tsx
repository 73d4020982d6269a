import { Button } from '../../ui/Button.tsx';
import { FormButton } from '../../ui/form/SmallForm.tsx';
import { compose } from './content.ts';
import { PhasePicker } from './PhasePicker.tsx';
import type { TemplateEditor } from './use-template-editor.ts';

/** Puts phases of other templates at the end of this one. */
export function ComposeButton({ editor }: { readonly editor: TemplateEditor }) {
  return (
    <FormButton button={<Button>Add phases from another template…</Button>} label="Add phases from another template" width={330}>
      {(close) => (
        <PhasePicker
          exceptId={editor.view.id}
          without={[]}
          onPick={(source, phaseIds) => {
            editor.edit(compose(source, phaseIds));
            close();
          }}
        />
      )}
    </FormButton>
  );
}
