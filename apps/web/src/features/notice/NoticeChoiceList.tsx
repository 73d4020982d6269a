import styled from 'styled-components';
import { useNoticeChoices } from '../../api/queries.ts';
import { ErrorNote, Loading } from '../../ui/layout.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { NOTICE_KIND_WORDS } from '@crew/contract';
import { choose } from './use-notices.ts';

const Choices = styled.ul`
  flex: 1;
  overflow: auto;
  padding: 6px 16px 12px;
  > li {
    padding: 5px 0;
  }
`;

/** What one is told of, kind by kind; it counts from now on. */
export function NoticeChoiceList() {
  const { data, error } = useNoticeChoices();
  if (data === undefined) return error === undefined ? <Loading rows={6} /> : <ErrorNote error={error} />;
  return (
    <Choices aria-label="What I am told of">
      {data.kinds.map(({ kind, isOn }) => (
        <li key={kind}>
          <Tick isSelected={isOn} onChange={(next) => choose(kind, next)}>
            {NOTICE_KIND_WORDS[kind]}
          </Tick>
        </li>
      ))}
    </Choices>
  );
}
