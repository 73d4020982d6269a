import styled from 'styled-components';
import { Button, ButtonLink } from '../../ui/Button.tsx';
import { Muted, PageHead, Push } from '../../ui/layout.tsx';
import { Tag } from '../../ui/marks.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { TextCell } from '../../ui/TextCell.tsx';
import { count } from '../../words/format.ts';
import { ComposeButton } from './ComposeButton.tsx';
import { KeepButton } from './SavingNote.tsx';
import type { TemplateEditor } from './use-template-editor.ts';

/** As what a template is looked at. */
export const TEMPLATE_SHAPES = ['outline', 'map', 'list'] as const;
export type TemplateShape = (typeof TEMPLATE_SHAPES)[number];

const Tools = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
  margin-bottom: 12px;
`;

/** The name of a template, how often it is used, and what can be done with it as a whole. */
export function TemplateHead({
  editor,
  isReadOnly,
  onOpen,
}: {
  readonly editor: TemplateEditor;
  readonly isReadOnly: boolean;
  readonly onOpen: (kind: 'learned' | 'versions') => void;
}) {
  const { view, content, edit } = editor;
  return (
    <PageHead>
      <h1>
        {isReadOnly ? (
          content.name
        ) : (
          <TextCell
            label="Name of the template"
            value={content.name}
            onSave={(name) => (name.trim() === '' ? false : edit((before) => ({ ...before, name: name.trim() })))}
            isFitted
          />
        )}
      </h1>
      <Tag>version {view.version}</Tag>
      <Muted>
        {view.kind === 'engagement' ? `used ${count(view.usedTimes, 'time')} · ` : ''}
        {count(content.phases.length, 'phase')} · {count(content.tasks.length, 'task')}
      </Muted>
      <Push />
      <Button onPress={() => onOpen('learned')}>Planned against actual</Button>
      <Button onPress={() => onOpen('versions')}>Versions</Button>
      <ButtonLink href={`/api/templates/${view.id}/export`} download={`${content.name}.json`} routerOptions={undefined as never}>
        Export
      </ButtonLink>
      {isReadOnly ? null : <KeepButton editor={editor} />}
      {view.kind === 'engagement' && !isReadOnly ? (
        <ButtonLink kind={view.isChanged ? 'plain' : 'primary'} href={`/engagements/start?template=${view.id}`}>
          Start an engagement with this
        </ButtonLink>
      ) : null}
    </PageHead>
  );
}

interface ToolsProps {
  readonly shape: TemplateShape;
  readonly editor: TemplateEditor;
  readonly isReadOnly: boolean;
  readonly onShape: (shape: TemplateShape) => void;
}

/** How the template is looked at, and what is done to it here. */
export function TemplateTools({ shape, editor, isReadOnly, onShape }: ToolsProps) {
  return (
    <Tools>
      <Segmented
        label="View"
        parts={[
          { id: 'outline', name: 'Outline' },
          { id: 'map', name: 'Map' },
          { id: 'list', name: 'Step list' },
        ]}
        value={shape}
        onChange={onShape}
      />
      <Push />
      {isReadOnly ? null : (
        <>
          <ComposeButton editor={editor} />
          <Button isDisabled={editor.undo === null} onPress={() => editor.undo?.()}>
            Undo
          </Button>
        </>
      )}
    </Tools>
  );
}
