import { Dialog, DialogTrigger } from 'react-aria-components';
import { Button } from '../../ui/Button.tsx';
import { PopoverPanel } from '../../ui/Field.tsx';
import { compose } from './content.ts';
import { PhasePicker } from './PhasePicker.tsx';
import type { TemplateEditor } from './use-template-editor.ts';

/** Puts phases of other templates at the end of this one. */
export function ComposeButton({ editor }: { readonly editor: TemplateEditor }) {
  return (
    <DialogTrigger>
      <Button>Add phases from another template…</Button>
      <PopoverPanel style={{ maxHeight: 'none' }}>
        <Dialog aria-label="Add phases from another template" style={{ outline: 'none', padding: 10, width: 330 }}>
          {({ close }) => (
            <PhasePicker
              exceptId={editor.view.id}
              without={[]}
              onPick={({ content }, phaseIds) => {
                editor.edit(compose(content, phaseIds));
                close();
              }}
            />
          )}
        </Dialog>
      </PopoverPanel>
    </DialogTrigger>
  );
}
