import { Note } from '../../ui/text.tsx';
import type { TemplateNews, TemplateNewsLine } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { useTemplateNews } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { ErrorNote, Loading } from '../../ui/layout.tsx';
import { Sheet, SheetTitle } from '../../ui/Sheet.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { count } from '../../words/format.ts';
import { applyAt, ApplyPart } from './ApplyPart.tsx';

const Item = styled.li`
  border-top: 1px solid var(--line-2);
  padding: 6px 0;
`;

const Detail = styled.p`
  font-size: 12px;
  color: var(--ink-2);
  padding-left: 24px;
`;

interface NewsProps {
  readonly engagementId: string;
  readonly onClose: () => void;
}

/** Updates of the template an engagement was made from: each is applied or not. */
export function NewsSheet({ engagementId, onClose }: NewsProps) {
  const { data, error } = useTemplateNews(engagementId);
  return (
    <Sheet label="Template updates" line="Template" onClose={onClose}>
      {error ? (
        <ErrorNote error={error} />
      ) : data === undefined ? (
        <Loading rows={5} />
      ) : (
        <News engagementId={engagementId} news={data} onClose={onClose} />
      )}
    </Sheet>
  );
}

function News({ engagementId, news, onClose }: NewsProps & { readonly news: TemplateNews }) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const ids = [...chosen].sort();
  const path = `/engagements/${engagementId}/template-news`;
  if (news.lines.length === 0) return <p>This engagement uses the newest version. There are no updates.</p>;
  const open = news.lines.filter((line) => line.hindrance === null);
  return (
    <>
      <SheetTitle>
        Version {news.from} → {news.to}
      </SheetTitle>
      <Note>Choose the updates to apply. Everything else stays as it is.</Note>
      {open.length < 2 ? null : (
        <Button isFlush kind="quiet" onPress={() => setChosen(new Set(chosen.size === open.length ? [] : open.map(({ id }) => id)))}>
          {chosen.size === open.length ? 'Select none' : `Select all ${open.length}`}
        </Button>
      )}
      <ul>
        {news.lines.map((line) => (
          <Item key={`${line.part} ${line.id}`}>
            <NewsLine line={line} isChosen={chosen.has(line.id)} onTurn={() => setChosen(turned(chosen, line, news.lines))} />
          </Item>
        ))}
      </ul>
      <ApplyPart
        ask={ids.length === 0 ? null : { path: `${path}/preview`, body: { ids } }}
        apply={() => applyAt(path, { ids })}
        action={`Apply ${count(ids.length, 'update')}`}
        said={`${count(ids.length, 'update')} applied.`}
        onApplied={onClose}
      />
    </>
  );
}

/** A new phase brings its tasks; choosing one of its tasks chooses the phase; without the phase none of them can be applied. */
export function turned(
  chosen: ReadonlySet<string>,
  line: Pick<TemplateNewsLine, 'id' | 'needs'>,
  lines: readonly Pick<TemplateNewsLine, 'id' | 'needs' | 'hindrance'>[],
): ReadonlySet<string> {
  const along = lines.filter((other) => other.needs === line.id && other.hindrance === null).map(({ id }) => id);
  if (chosen.has(line.id)) return new Set([...chosen].filter((id) => id !== line.id && !along.includes(id)));
  return new Set([...chosen, line.id, ...(line.needs === null ? [] : [line.needs]), ...along]);
}

const KIND: Readonly<Record<TemplateNewsLine['kind'], string>> = {
  added: 'new',
  removed: 'removed from the template, so removed here too',
  changed: '',
};

function NewsLine({
  line,
  isChosen,
  onTurn,
}: {
  readonly line: TemplateNewsLine;
  readonly isChosen: boolean;
  readonly onTurn: () => void;
}) {
  const words = [line.part === 'task' ? line.phase : line.part, KIND[line.kind], ...line.words].filter(
    (word) => word !== null && word !== '',
  );
  return (
    <>
      <Tick isSelected={isChosen} isDisabled={line.hindrance !== null} onChange={onTurn}>
        <strong>{line.name}</strong>
      </Tick>
      <Detail>
        {words.join(' · ')}
        {line.hindrance === null ? '' : ` — left out: ${line.hindrance}`}
      </Detail>
    </>
  );
}
