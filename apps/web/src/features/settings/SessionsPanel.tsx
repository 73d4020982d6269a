import type { SessionLine } from '@crew/contract';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useSessions } from '../../api/queries.ts';
import { perform } from '../../session/perform.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { ErrorNote, Loading, Panel, PanelBody, PanelHead, Push } from '../../ui/layout.tsx';
import { dayOf, dayWords, instantWords } from '../../words/format.ts';

const Lines = styled.ul`
  li {
    display: flex;
    align-items: center;
    gap: 12px;
    padding: 7px 0;
    border-top: 1px solid var(--line-2);
  }
  li:first-child {
    border-top: 0;
  }
  small {
    display: block;
    color: var(--ink-2);
    font-size: 12px;
  }
`;

/** Where one is signed in, and signing out there. */
export function SessionsPanel() {
  const { data: sessions, error, mutate } = useSessions();
  const end = async (path: string, said: string): Promise<void> => {
    await perform({ send: () => call('DELETE', path), said });
    await mutate();
  };
  const others = sessions?.filter(({ isThis }) => !isThis) ?? [];
  return (
    <Panel aria-label="Where you are signed in">
      <PanelHead>
        <h2>Where you are signed in</h2>
        <Push />
        {others.length < 2 ? null : (
          <Button onPress={() => void end('/account/sessions', 'You are signed out everywhere else.')}>Sign out everywhere else</Button>
        )}
      </PanelHead>
      <PanelBody>
        {error ? <ErrorNote error={error} /> : null}
        {sessions === undefined ? (
          <Loading rows={2} />
        ) : (
          <Lines>
            {sessions.map((session) => (
              <Line
                key={session.id}
                session={session}
                onEnd={() => void end(`/account/sessions/${session.id}`, `Signed out on ${session.device}.`)}
              />
            ))}
          </Lines>
        )}
      </PanelBody>
    </Panel>
  );
}

function Line({ session, onEnd }: { readonly session: SessionLine; readonly onEnd: () => void }) {
  const me = useWho();
  const { device, ip, beganAt, usedAt, isThis } = session;
  return (
    <li>
      <div>
        <strong>{device}</strong>
        <small>
          {isThis ? 'this one' : `last used ${dayWords(dayOf(usedAt, me.zone), me.today)}`} · since {instantWords(beganAt, me)}
          {ip === '' ? '' : ` · ${ip}`}
        </small>
      </div>
      <Push />
      {isThis ? null : (
        <Button kind="quiet" aria-label={`Sign out on ${device}`} onPress={onEnd}>
          Sign out
        </Button>
      )}
    </li>
  );
}
