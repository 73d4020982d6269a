import type { EventSubject, HistoryLine } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { useHistory } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { ErrorNote, Loading } from '../../ui/layout.tsx';
import { instantWords } from '../../words/format.ts';
import { LineSentence } from './HistoryRow.tsx';
import { doerWords } from './history-words.ts';
import { useUndoLine } from './use-undo-line.ts';

const Line = styled.li<{ $isUndone: boolean }>`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 1px 8px;
  align-items: baseline;
  padding: 6px 0;
  border-top: 1px solid var(--line-2);
  color: ${({ $isUndone }) => ($isUndone ? 'var(--ink-3)' : 'var(--ink)')};
  overflow-wrap: anywhere;
  &:first-child {
    border-top: 0;
  }
  button {
    min-height: 20px;
    padding-block: 0;
  }
  small {
    grid-column: 1;
    color: var(--ink-2);
    font-size: 12px;
  }
`;

interface Asked {
  /** What of the history, as in the query of `GET /history`. */
  readonly query: string;
  /** Whether each line names its thing: not on the sheet of that thing. */
  readonly isNamed?: boolean;
}

/** The query for the history of one thing. */
export const historyOf = (subject: EventSubject, id: string): string => `subject=${subject}&id=${id}`;

/** What happened to one thing, or in one engagement, on its sheet; earlier pages on demand. */
export function ThingHistory({ query, isNamed = false }: Asked) {
  return (
    <ul>
      <HistoryPart query={query} isNamed={isNamed} isFirst />
    </ul>
  );
}

function HistoryPart({ query, isNamed, isFirst = false }: Required<Pick<Asked, 'isNamed'>> & Asked & { readonly isFirst?: boolean }) {
  const [isMore, setMore] = useState(false);
  const { data, error } = useHistory(query);
  if (error) return <li>{<ErrorNote error={error} />}</li>;
  if (data === undefined) return <li>{<Loading rows={1} />}</li>;
  if (data.lines.length === 0 && isFirst) return <li>Nothing has been changed since it was added.</li>;
  return (
    <>
      {data.lines.map((line) => (
        <ThingLine key={line.id} line={line} isNamed={isNamed} />
      ))}
      {data.before === null ? null : isMore ? (
        <HistoryPart query={`${query.replace(/&before=\d+$/, '')}&before=${data.before}`} isNamed={isNamed} />
      ) : (
        <li>
          <Button kind="quiet" onPress={() => setMore(true)}>
            Show earlier
          </Button>
        </li>
      )}
    </>
  );
}

function ThingLine({ line, isNamed }: { readonly line: HistoryLine; readonly isNamed: boolean }) {
  const me = useWho();
  const undo = useUndoLine(line);
  return (
    <Line $isUndone={line.redoId !== null}>
      <span>
        <strong>{doerWords(line.by)}</strong> <LineSentence line={line} isNamed={isNamed} />
      </span>
      {undo.name === null ? (
        <span />
      ) : (
        <Button kind="quiet" isDisabled={undo.isBusy} onPress={undo.act}>
          {undo.name}
        </Button>
      )}
      <small>
        {instantWords(line.at, me)}
        {line.effects === 0 ? '' : ` · and ${line.effects} more`}
        {line.redoId === null ? '' : ' · undone'}
      </small>
    </Line>
  );
}
