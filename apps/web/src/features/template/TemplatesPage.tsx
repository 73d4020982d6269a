import { backBy, perform, performOrThrow } from '../../session/perform.ts';
import { can, hasEveryWord, MakeTemplate, type TemplateImported, type TemplateSummary } from '@crew/contract';
import { useState } from 'react';
import { Link, Menu, MenuTrigger } from 'react-aria-components';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import { ApiError, call } from '../../api/client.ts';
import { useTemplates } from '../../api/queries.ts';
import { useOpenSheet } from '../../session/open-sheet.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { ChooseFile } from '../../ui/ChooseFile.tsx';
import { Choose, Field, PopoverPanel } from '../../ui/Field.tsx';
import { MenuChoice } from '../../ui/MenuChoice.tsx';
import { Empty, ErrorNote, Loading, Muted, Page, PageHead, Panel, PanelHead, Push, WithSheet, Fixed } from '../../ui/layout.tsx';
import { Tag } from '../../ui/marks.tsx';
import { FormButton, SmallForm } from '../../ui/form/SmallForm.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { phone } from '../../ui/tokens.ts';
import { count, hours } from '../../words/format.ts';
import { CustomFieldsSheet } from '../field/CustomFieldsSheet.tsx';
import { ImportNote, readFile, type ImportTrouble } from './ImportNote.tsx';

const BehindTag = styled(Tag)`
  margin-left: 8px;
`;

const Stack = styled.div`
  display: flex;
  flex-direction: column;
  gap: 14px;
`;
const Row = styled.li`
  position: relative;
  display: grid;
  grid-template-columns: minmax(180px, 1fr) minmax(160px, 1.5fr) 130px 90px 30px;
  gap: 16px;
  align-items: center;
  padding: 10px 14px;
  border-top: 1px solid var(--line-2);
  &:first-child {
    border-top: 0;
  }
  &:hover {
    background: var(--sunk);
  }
  small {
    display: block;
    color: var(--ink-2);
    font-size: 12px;
  }
  > .tools {
    position: relative;
    z-index: 1;
  }
  ${phone} {
    grid-template-columns: minmax(0, 1fr) 30px;
    gap: 6px;
    > .wide {
      display: none;
    }
  }
`;
const RowLink = styled(Link)`
  font-weight: 600;
  text-decoration: none;
  &::after {
    content: '';
    position: absolute;
    inset: 0;
  }
`;
const Shape = styled.span`
  display: flex;
  gap: 3px;
  i {
    height: 9px;
    min-width: 6px;
    border-radius: 2.5px;
    background: var(--petrol-mid);
  }
`;

const KINDS: readonly { readonly kind: TemplateSummary['kind']; readonly title: string; readonly note: string }[] = [
  { kind: 'engagement', title: 'Engagements', note: 'whole pieces of work, from enquiry to aftercare' },
  { kind: 'phase', title: 'Phases', note: 'parts used in several engagements' },
  { kind: 'task', title: 'Tasks', note: 'single tasks worth saving' },
];

/** Whether each word that was typed stands in the template's name, description, phases or tasks. */
export const isFound = (template: TemplateSummary, typed: string): boolean => {
  const text = [template.name, template.description, template.words, ...template.phases.map((phase) => phase.name)].join(' ');
  return hasEveryWord(text, typed);
};

const LIBRARY_SHEETS = { things: [], named: ['fields'] } as const;

/** The library: searched, added to, duplicated, archived, imported. */
export function TemplatesPage() {
  const { data: templates, error } = useTemplates();
  const me = useWho();
  const [typed, setTyped] = useState('');
  const [isArchiveShown, setArchiveShown] = useState(false);
  const [trouble, setTrouble] = useState<ImportTrouble | null>(null);
  const [sheet, openSheet] = useOpenSheet(LIBRARY_SHEETS);
  const isFieldsShown = can(me, 'template.edit') && sheet !== null;
  const archived = templates?.filter((template) => template.isArchived).length ?? 0;
  const shown = templates?.filter((template) => template.isArchived === isArchiveShown && isFound(template, typed));
  return (
    <Page>
      <PageHead>
        <h1>Templates</h1>
        <Muted>
          {isArchiveShown
            ? 'Archived: not offered for new work; what was made from them stays'
            : 'Work you know how to do, ready to start again'}
        </Muted>
        <Push />
        <Fixed $width={230}>
          <Field label="" aria-label="Search templates" placeholder="Search templates" isTight value={typed} onChange={setTyped} />
        </Fixed>
        {archived > 0 || isArchiveShown ? (
          <Button onPress={() => setArchiveShown(!isArchiveShown)}>
            {isArchiveShown ? 'Back to templates' : `Archived (${archived})`}
          </Button>
        ) : null}
        {can(me, 'template.edit') ? (
          <>
            <Button onPress={() => openSheet(isFieldsShown ? null : { kind: 'fields' })}>Custom fields</Button>
            <ImportButton onTrouble={setTrouble} />
            <NewButton />
          </>
        ) : null}
      </PageHead>
      {trouble === null ? null : <ImportNote trouble={trouble} onClose={() => setTrouble(null)} />}
      {error ? (
        <ErrorNote error={error} />
      ) : shown === undefined ? (
        <Loading rows={12} />
      ) : (
        <WithSheet $isOpen={isFieldsShown}>
          <Groups templates={shown} isAny={(templates ?? []).length > 0} />
          {isFieldsShown ? <CustomFieldsSheet onClose={() => openSheet(null)} /> : null}
        </WithSheet>
      )}
    </Page>
  );
}

function Groups({ templates, isAny }: { readonly templates: readonly TemplateSummary[]; readonly isAny: boolean }) {
  if (templates.length === 0) {
    return (
      <Panel>
        <Empty title={isAny ? 'No templates match.' : 'No templates yet.'}>
          <p>
            {isAny
              ? 'Try fewer words, or look in the archive.'
              : 'A template holds the phases, tasks and dependencies of a kind of work you do often.'}
          </p>
        </Empty>
      </Panel>
    );
  }
  return (
    <Stack>
      {KINDS.map(({ kind, title, note }) => {
        const some = templates.filter((template) => template.kind === kind);
        return some.length === 0 ? null : (
          <Panel key={kind}>
            <PanelHead>
              <h2>{title}</h2>
              <Muted>{note}</Muted>
            </PanelHead>
            <ul>
              {some.map((template) => (
                <TemplateRow key={template.id} template={template} />
              ))}
            </ul>
          </Panel>
        );
      })}
    </Stack>
  );
}

function TemplateRow({ template }: { readonly template: TemplateSummary }) {
  const me = useWho();
  return (
    <Row>
      <div>
        <RowLink href={`/templates/${template.id}`}>{template.name}</RowLink>
        {template.isChanged ? <BehindTag>not saved as a version</BehindTag> : null}
        <small>{template.description}</small>
      </div>
      <div className="wide">
        {template.kind === 'engagement' ? (
          <Shape aria-hidden="true">
            {template.phases.map((phase, index) => (
              <i key={`${index} ${phase.name}`} title={phase.name} style={{ flex: Math.max(1, Math.sqrt(phase.days)) }} />
            ))}
          </Shape>
        ) : null}
        <small>{template.kind === 'engagement' ? template.phases.map((phase) => phase.name).join(' · ') : ''}</small>
      </div>
      <span className="wide">
        {count(template.taskCount, 'task')} · {hours(template.effortMinutes)} h
      </span>
      <small className="wide">
        version {template.version}
        <br />
        {template.kind === 'engagement' ? (template.usedTimes === 0 ? 'not used yet' : `used ${count(template.usedTimes, 'time')}`) : ''}
      </small>
      {can(me, 'template.edit') ? <RowTools template={template} /> : <span />}
    </Row>
  );
}

function RowTools({ template }: { readonly template: TemplateSummary }) {
  const navigate = useNavigate();
  const archive = (isArchived: boolean): Promise<void> => call('POST', `/templates/${template.id}/archive`, { isArchived });
  const copy = async (): Promise<void> => {
    const body = { name: `${template.name} (copy)`, copyOf: template.id };
    const copied = await perform({ send: () => call<{ id: string }>('POST', '/templates', body) });
    if (copied.isDone) await navigate(`/templates/${copied.answer.id}`);
  };
  const put = (isArchived: boolean): Promise<unknown> =>
    perform({
      send: () => archive(isArchived),
      said: `“${template.name}” ${isArchived ? 'archived' : 'restored'}.`,
      undo: () => backBy(() => archive(!isArchived)),
    });
  return (
    <span className="tools">
      <MenuTrigger>
        <Button kind="quiet" aria-label={`More for ${template.name}`}>
          ⋯
        </Button>
        <PopoverPanel>
          <Menu aria-label={template.name} onAction={(key) => void (key === 'copy' ? copy() : put(key === 'archive'))}>
            <MenuChoice id="copy">Duplicate</MenuChoice>
            {template.isArchived ? <MenuChoice id="back">Restore</MenuChoice> : <MenuChoice id="archive">Archive</MenuChoice>}
          </Menu>
        </PopoverPanel>
      </MenuTrigger>
    </span>
  );
}

/** What came along with a file beside phases and tasks. */
function alongWords({ newFields, files }: TemplateImported): string {
  const fields = newFields.length === 0 ? '' : ` New custom fields: ${newFields.join(', ')}.`;
  return `${files === 0 ? '' : ` ${count(files, 'file')} came along.`}${fields}`;
}

function importedWords(kept: TemplateImported): string {
  const missing = kept.missingRoles.length === 0 ? '' : ` Roles not found: ${kept.missingRoles.join(', ')}; their tasks have no role.`;
  const unknown =
    kept.missingPeople.length === 0 ? '' : ` People not found: ${kept.missingPeople.join(', ')}; their tasks follow the role.`;
  return `“${kept.name}” imported with ${count(kept.phases, 'phase')} and ${count(kept.tasks, 'task')}.${alongWords(kept)}${missing}${unknown}`;
}

function ImportButton({ onTrouble }: { readonly onTrouble: (trouble: ImportTrouble | null) => void }) {
  const navigate = useNavigate();
  const read = async (file: File | undefined): Promise<void> => {
    if (file === undefined) return;
    onTrouble(null);
    const content = await readFile(file);
    if ('trouble' in content) return onTrouble(content.trouble);
    const kept = await perform({
      send: () => call<TemplateImported>('POST', '/templates/import', { file: content.json }),
      said: importedWords,
      onTrouble: (message, error) => {
        const faults = error instanceof ApiError ? (error.details as { faults?: ImportTrouble['faults'] } | undefined)?.faults : undefined;
        onTrouble({ name: file.name, message, faults: faults ?? [] });
      },
    });
    if (kept.isDone) await navigate(`/templates/${kept.answer.id}`);
  };
  return (
    <ChooseFile types={['application/json', '.json']} onChoose={([file]) => void read(file)}>
      <Button>Import template…</Button>
    </ChooseFile>
  );
}

function NewButton() {
  return (
    <FormButton button={<Button kind="primary">New template</Button>} label="New template">
      {() => <NewForm />}
    </FormButton>
  );
}

function NewForm() {
  const navigate = useNavigate();
  const form = useInputForm({
    rules: MakeTemplate,
    typed: NO_TEMPLATE,
    input: (typed) => typed,
    send: async (input) => {
      const { id } = await performOrThrow({ send: () => call<{ id: string }>('POST', '/templates', input) });
      await navigate(`/templates/${id}?view=map`);
    },
  });
  return (
    <SmallForm form={form} action="Add">
      <Field {...form.bind('name')} label="What kind of work is it?" autoFocus placeholder="e.g. Audio trail" />
      <Choose {...form.bind('kind')} label="It is" choices={KIND_CHOICES} />
    </SmallForm>
  );
}

const NO_TEMPLATE: { name: string; kind: TemplateSummary['kind'] } = { name: '', kind: 'engagement' };
const KIND_CHOICES = [
  { id: 'engagement', name: 'a whole engagement' },
  { id: 'phase', name: 'a phase by itself' },
  { id: 'task', name: 'a single task' },
] as const;
