import { can, type HistoryLine } from '@crew/contract';
import { useState } from 'react';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { useHistory } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Loading } from '../../ui/layout.tsx';
import { HueMark, PersonMark } from '../../ui/marks.tsx';
import { phone } from '../../ui/tokens.ts';
import { timeWords } from '../../words/format.ts';
import type { ChangeWords } from './field-words.ts';
import { doerWords, historyWords, thingWords } from './history-words.ts';
import { useUndoLine } from './use-undo-line.ts';

const Row = styled.li<{ $isUndone: boolean }>`
  display: grid;
  grid-template-columns: 44px 150px minmax(0, 1fr) 190px 132px;
  gap: 10px;
  align-items: center;
  min-height: var(--row);
  padding: 3px 14px;
  border-top: 1px solid var(--line-2);
  color: ${({ $isUndone }) => ($isUndone ? 'var(--ink-3)' : 'var(--ink)')};
  > time {
    color: var(--ink-2);
    font-size: 12.5px;
  }
  ${phone} {
    grid-template-columns: 44px minmax(0, 1fr) auto;
    gap: 2px 8px;
    padding: 7px 12px;
  }
`;
const Doer = styled.span`
  display: flex;
  align-items: center;
  gap: 8px;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
`;
const Sentence = styled.span`
  overflow-wrap: anywhere;
  ${phone} {
    grid-column: 2 / 4;
  }
`;
const Place = styled.span`
  display: flex;
  align-items: center;
  gap: 8px;
  min-width: 0;
  font-size: 12.5px;
  a {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    color: inherit;
    text-decoration: none;
  }
  ${phone} {
    grid-column: 2 / 4;
  }
`;
const Acts = styled.span`
  display: flex;
  justify-content: flex-end;
  gap: 2px;
  button {
    min-height: 22px;
    padding-block: 0;
  }
  ${phone} {
    grid-area: 1 / 3;
  }
`;
const Was = styled.s`
  color: var(--ink-3);
`;
const Effects = styled.ul`
  padding: 4px 14px 10px 228px;
  background: var(--sunk);
  border-top: 1px solid var(--line-2);
  > li {
    padding: 4px 0;
  }
  ${phone} {
    padding-left: 64px;
  }
`;

/** One line of the history on a page, with what else the same change did behind it. */
export function HistoryRow({ line }: { readonly line: HistoryLine }) {
  const [isOpen, setOpen] = useState(false);
  const me = useWho();
  const { zone } = me;
  const undo = useUndoLine(line);
  return (
    <>
      <Row $isUndone={line.redoId !== null}>
        <time dateTime={line.at}>{timeWords(line.at, zone)}</time>
        <Doer>
          {line.by.person === null ? null : <PersonMark person={line.by.person} />}
          {line.by.kind === 'rule' && line.runId !== null && can(me, 'rule.read') ? (
            <Link href={`/handoffs/rules/runs?run=${line.runId}`}>{doerWords(line.by)}</Link>
          ) : (
            doerWords(line.by)
          )}
        </Doer>
        <Sentence>
          <LineSentence line={line} isNamed />
          {line.redoId === null ? null : ' · undone'}
        </Sentence>
        <Place>
          {line.engagement === null ? null : (
            <>
              <HueMark $hue={line.engagement.hue} />
              <Link href={`/engagements/${line.engagement.id}`}>{line.engagement.name}</Link>
            </>
          )}
        </Place>
        <Acts>
          {line.effects === 0 ? null : (
            <Button kind="quiet" aria-expanded={isOpen} onPress={() => setOpen(!isOpen)}>
              {isOpen ? '▾' : '▸'} {line.effects} more
            </Button>
          )}
          {undo.name === null ? null : (
            <Button kind="quiet" isDisabled={undo.isBusy} onPress={undo.act}>
              {undo.name}
            </Button>
          )}
        </Acts>
      </Row>
      {isOpen && line.changeId !== null ? <ChangeEffects line={line} changeId={line.changeId} /> : null}
    </>
  );
}

/** What else a change did to the same engagement. */
function ChangeEffects({ line, changeId }: { readonly line: HistoryLine; readonly changeId: string }) {
  const { data } = useHistory(`change=${changeId}${line.engagement === null ? '' : `&engagement=${line.engagement.id}`}`);
  if (data === undefined) return <li>{<Loading rows={1} />}</li>;
  const others = data.lines.filter(({ id }) => id !== line.id);
  const left = line.effects - others.length;
  return (
    <li>
      <Effects>
        {[...others].reverse().map((effect) => (
          <li key={effect.id}>
            <LineSentence line={effect} isNamed />
          </li>
        ))}
        {left > 0 ? <li>and {left} more</li> : null}
      </Effects>
    </li>
  );
}

/** What was done, in a sentence without its doer; on the sheet of a thing the thing is not named again. */
export function LineSentence({ line, isNamed }: { readonly line: HistoryLine; readonly isNamed: boolean }) {
  const { today } = useWho();
  const { did, changes, said } = historyWords(line, today);
  return (
    <>
      {line.isUndoing ? 'undid: ' : ''}
      {isNamed ? did : did.replace(/ (of|on|from|to|for|:)$/, '')} {isNamed ? <strong>{thingWords(line)}</strong> : null}
      {changes.map((change, index) => (
        <span key={`${change.label} ${index}`}>
          {index === 0 ? ' ' : ', '}
          <Change change={change} />
        </span>
      ))}
      {said === null ? '' : ` “${said}”`}
    </>
  );
}

function Change({ change: { label, from, to } }: { readonly change: ChangeWords }) {
  if (to === null) return <>{label}</>;
  return (
    <>
      {label === '' ? '' : `${label} `}
      {from === null || from === 'none' ? null : (
        <>
          <Was>{from}</Was> →{' '}
        </>
      )}
      <strong>{to}</strong>
    </>
  );
}
