import type { TemplateSummary } from '@crew/contract';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { useTemplates } from '../../api/queries.ts';
import { Empty, ErrorNote, Loading, Muted, Page, PageHead, Panel, PanelHead } from '../../ui/layout.tsx';
import { phone } from '../../ui/tokens.ts';
import { count, hours } from '../../words/format.ts';

const Stack = styled.div`
  display: flex;
  flex-direction: column;
  gap: 14px;
`;
const Row = styled.li`
  position: relative;
  display: grid;
  grid-template-columns: minmax(180px, 1fr) minmax(160px, 1.5fr) 150px 90px;
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
  ${phone} {
    grid-template-columns: minmax(0, 1fr);
    gap: 6px;
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
  { kind: 'phase', title: 'Phases', note: 'parts that go into several engagements' },
  { kind: 'task', title: 'Tasks', note: 'worth keeping by themselves' },
];

/** The library. */
export function TemplatesPage() {
  const { data: templates, error } = useTemplates();
  return (
    <Page>
      <PageHead>
        <h1>Templates</h1>
        <Muted>Work you have done well once, ready to be started again</Muted>
      </PageHead>
      {error ? <ErrorNote error={error} /> : templates === undefined ? <Loading rows={12} /> : <Groups templates={templates} />}
    </Page>
  );
}

function Groups({ templates }: { readonly templates: readonly TemplateSummary[] }) {
  if (templates.length === 0) {
    return (
      <Panel>
        <Empty title="There is no template yet.">
          <p>A template holds the phases, tasks and ties of a kind of work you do often.</p>
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
  return (
    <Row>
      <div>
        <RowLink href={`/templates/${template.id}`}>{template.name}</RowLink>
        <small>{template.description}</small>
      </div>
      <div>
        {template.kind === 'engagement' ? (
          <Shape aria-hidden="true">
            {template.phases.map((phase) => (
              <i key={phase.name} title={phase.name} style={{ flex: Math.max(1, Math.sqrt(phase.days)) }} />
            ))}
          </Shape>
        ) : null}
        <small>{template.kind === 'engagement' ? template.phases.map((phase) => phase.name).join(' · ') : ''}</small>
      </div>
      <span>
        {count(template.taskCount, 'task')} · {hours(template.effortMinutes)} h
      </span>
      <small>
        {template.kind === 'engagement' ? (template.usedTimes === 0 ? 'not used yet' : `used ${count(template.usedTimes, 'time')}`) : ''}
      </small>
    </Row>
  );
}
