import type { PlanChanged, TemplateNews, TemplateNewsLine } from '@crew/contract';
import { useState } from 'react';
import { call } from '../../api/client.ts';
import { refreshAll, useTemplateNews } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { ErrorNote, Loading } from '../../ui/layout.tsx';
import { Sheet } from '../../ui/Sheet.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { notify } from '../../ui/toasts.tsx';
import { count } from '../../words/format.ts';
import { undoChange } from '../replan/use-proposal.ts';

interface NewsProps {
  readonly engagementId: string;
  readonly onClose: () => void;
}

/** What is new in the template an engagement came from: each change is taken or left. */
export function NewsSheet({ engagementId, onClose }: NewsProps) {
  const { data, error } = useTemplateNews(engagementId);
  return (
    <Sheet label="What is new in the template" line="Template" onClose={onClose}>
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
  const [trouble, setTrouble] = useState<string>();
  if (news.lines.length === 0) return <p>This engagement is of the newest version. Nothing is new.</p>;
  const turn = (id: string): void => setChosen(new Set(chosen.has(id) ? [...chosen].filter((other) => other !== id) : [...chosen, id]));
  const take = async (): Promise<void> => {
    try {
      const { changeId, effect } = await call<PlanChanged>('POST', `/engagements/${engagementId}/template-news`, { ids: [...chosen] });
      await refreshAll();
      const moved = effect.moves.length === 0 ? 'No task moved.' : `${count(effect.moves.length, 'task')} moved.`;
      notify(`${count(chosen.size, 'change')} brought in. ${moved}`, { undo: () => undoChange(changeId) });
      onClose();
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : 'This was not saved.');
    }
  };
  return (
    <>
      <h2 style={{ fontSize: 19, marginBottom: 4 }}>
        Version {news.from} → {news.to}
      </h2>
      <p style={{ color: 'var(--ink-2)', marginBottom: 8 }}>Choose what this engagement takes over. What you leave stays as it is here.</p>
      <ul>
        {news.lines.map((line) => (
          <li key={`${line.part} ${line.id}`} style={{ borderTop: '1px solid var(--line-2)', padding: '6px 0' }}>
            <NewsLine line={line} isChosen={chosen.has(line.id)} onTurn={() => turn(line.id)} />
          </li>
        ))}
      </ul>
      {trouble === undefined ? null : (
        <p role="alert" style={{ color: 'var(--brick)' }}>
          {trouble}
        </p>
      )}
      <div style={{ marginTop: 10 }}>
        <Button kind="primary" isDisabled={chosen.size === 0} onPress={() => void take()}>
          Bring {count(chosen.size, 'change')} in
        </Button>
      </div>
    </>
  );
}

const KIND: Readonly<Record<TemplateNewsLine['kind'], string>> = {
  added: 'new',
  removed: 'gone from the template: it is dropped here',
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
      <p style={{ fontSize: 12, color: 'var(--ink-2)', paddingLeft: 24 }}>
        {words.join(' · ')}
        {line.hindrance === null ? '' : ` — left out: ${line.hindrance}`}
      </p>
    </>
  );
}
