import type { SecurityLine } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { useSecurityLog } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Empty, ErrorNote, Loading, Muted, Page, PageHead, Panel } from '../../ui/layout.tsx';
import { Toned } from '../../ui/text.tsx';
import { phone } from '../../ui/tokens.ts';
import { instantWords } from '../../words/format.ts';
import { securityWords } from './security-words.ts';
import { SettingsTabs } from './SettingsTabs.tsx';

const Lines = styled.ul`
  li {
    display: grid;
    grid-template-columns: 160px minmax(0, 1fr) minmax(0, 260px);
    gap: 14px;
    padding: 6px 14px;
    border-top: 1px solid var(--line-2);
  }
  li:first-child {
    border-top: 0;
  }
  time,
  small {
    color: var(--ink-2);
  }
  ${phone} {
    li {
      grid-template-columns: minmax(0, 1fr);
      gap: 1px;
    }
  }
`;
const More = styled.div`
  padding: 10px 14px;
`;

/** Who signed in, who was refused, and whose rights changed. */
export function SecurityPage() {
  const [pages, setPages] = useState<readonly (string | null)[]>([null]);
  return (
    <Page>
      <PageHead>
        <h1>Settings</h1>
        <SettingsTabs shown="/settings/security" />
        <Muted>sign-ins, refusals and changes of access; kept for two years, read by owners only</Muted>
      </PageHead>
      <Panel aria-label="Security log">
        {pages.map((before, index) => (
          <LogPage
            key={before ?? 'newest'}
            before={before}
            isLast={index === pages.length - 1}
            onEarlier={(earlier) => setPages([...pages, earlier])}
          />
        ))}
      </Panel>
    </Page>
  );
}

interface LogPageProps {
  readonly before: string | null;
  readonly isLast: boolean;
  readonly onEarlier: (before: string) => void;
}

function LogPage({ before, isLast, onEarlier }: LogPageProps) {
  const { data: log, error } = useSecurityLog(before);
  if (error) return <ErrorNote error={error} />;
  if (log === undefined) return <Loading rows={8} />;
  const earlier = log.before;
  return (
    <>
      {log.lines.length === 0 ? <Empty title="Nothing has been logged yet.">Sign-ins and changes of access appear here.</Empty> : null}
      <Lines>
        {log.lines.map((line) => (
          <Line key={line.id} line={line} />
        ))}
      </Lines>
      {isLast && earlier !== null ? (
        <More>
          <Button onPress={() => onEarlier(earlier)}>Show earlier</Button>
        </More>
      ) : null}
    </>
  );
}

function Line({ line }: { readonly line: SecurityLine }) {
  const me = useWho();
  return (
    <li>
      <time dateTime={line.at}>{instantWords(line.at, me)}</time>
      <Toned $tone={line.kind === 'refused' ? 'bad' : null}>{securityWords(line)}</Toned>
      <small>{[line.device, line.ip].filter((words) => words !== '').join(' · ')}</small>
    </li>
  );
}
