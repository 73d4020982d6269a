import { can, NOTICE_KIND_WORDS, type Notices } from '@crew/contract';
import { useEffect, useRef, useState, type RefObject } from 'react';
import styled from 'styled-components';
import { useNoticeChoices, useNotices } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Empty, ErrorNote, Loading } from '../../ui/layout.tsx';
import { phone } from '../../ui/tokens.ts';
import { count, dayOf, dayWords, timeWords } from '../../words/format.ts';
import { NoticeChoiceList } from './NoticeChoiceList.tsx';
import { NoticeEntry } from './NoticeEntry.tsx';
import { bringBack, markAllRead } from './use-notices.ts';

/** Over the page, which stays usable; nothing behind it is blocked. */
const Side = styled.aside`
  position: fixed;
  top: 52px;
  right: 12px;
  z-index: 25;
  display: flex;
  flex-direction: column;
  width: 440px;
  max-height: calc(100vh - 100px);
  background: var(--panel);
  color: var(--ink);
  border: 1px solid var(--joint);
  border-radius: 8px;
  box-shadow: 0 6px 22px rgb(10 30 30 / 18%);
  outline: none;
  ${phone} {
    inset: 46px 0 56px 0;
    width: auto;
    max-height: none;
    border-width: 0;
    border-radius: 0;
  }
`;
const Head = styled.header`
  display: flex;
  align-items: baseline;
  gap: 10px;
  padding: 10px 10px 8px 16px;
  border-bottom: 1px solid var(--line);
  h2 {
    font-size: 17px;
  }
  > span {
    flex: 1;
    color: var(--ink-2);
    font-size: 12.5px;
  }
`;
const List = styled.ul`
  flex: 1;
  overflow: auto;
`;
const Foot = styled.footer`
  padding: 6px 10px 6px 16px;
  border-top: 1px solid var(--line);
  background: var(--sunk);
  border-radius: 0 0 8px 8px;
  font-size: 12.5px;
  color: var(--ink-2);
  > p {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 10px;
  }
  b {
    color: var(--ink);
  }
`;

/** Escape closes the panel from wherever the focus is not in a page that has a use of its own for it. */
function useEscape(side: RefObject<HTMLElement | null>, onClose: () => void): void {
  useEffect(() => {
    const close = (event: KeyboardEvent): void => {
      const { activeElement } = document;
      if (event.key !== 'Escape' || (activeElement !== document.body && side.current?.contains(activeElement) !== true)) return;
      // A sheet below stays open.
      event.preventDefault();
      onClose();
    };
    window.addEventListener('keydown', close, { capture: true });
    return () => window.removeEventListener('keydown', close, { capture: true });
  }, [side, onClose]);
}

/** All one's notices, by thing; read ones stay a week, greyed. */
export function NoticePanel({ isToChoose, onClose }: { readonly isToChoose: boolean; readonly onClose: () => void }) {
  const { data, error } = useNotices(true);
  const [isChoosing, setChoosing] = useState(isToChoose);
  const side = useRef<HTMLElement>(null);
  useEscape(side, onClose);
  useEffect(() => side.current?.focus(), []);
  // The button that was pressed may be gone with its notice: then the panel gets the focus.
  useEffect(() => {
    if (document.activeElement === document.body) side.current?.focus();
  }, [data]);
  const shown = data?.groups.flatMap(({ lines }) => lines).length ?? 0;
  return (
    <Side ref={side} role="dialog" aria-label={isChoosing ? 'Choose notices' : 'Notices'} tabIndex={-1}>
      <Head>
        <h2>{isChoosing ? 'Choose notices' : 'Notices'}</h2>
        <span>{isChoosing || data === undefined ? '' : data.unread === 0 ? 'all read' : `${data.unread} unread of ${shown}`}</span>
        {isChoosing ? (
          <Button kind="quiet" onPress={() => setChoosing(false)}>
            Back to notices
          </Button>
        ) : data !== undefined && data.unread > 0 ? (
          <Button kind="quiet" onPress={() => markAllRead(data)}>
            Mark all as read
          </Button>
        ) : null}
        <Button kind="quiet" onPress={onClose}>
          Close
        </Button>
      </Head>
      {isChoosing ? <NoticeChoiceList /> : <Groups notices={data} error={error} onOpen={onClose} />}
      {isChoosing ? null : <Below notices={data} onChoose={() => setChoosing(true)} />}
    </Side>
  );
}

function Groups({
  notices,
  error,
  onOpen,
}: {
  readonly notices: Notices | undefined;
  readonly error: unknown;
  readonly onOpen: () => void;
}) {
  const me = useWho();
  if (notices === undefined) return error === undefined ? <Loading rows={4} /> : <ErrorNote error={error} />;
  if (notices.groups.length === 0)
    return (
      <Empty title="Nothing new for you.">
        When somebody assigns you work, hands off to you or reschedules your work, it appears here.
      </Empty>
    );
  return (
    <List>
      {notices.groups.map((group) => (
        <NoticeEntry
          key={`${group.about.kind} ${group.about.id}`}
          group={group}
          seesEngagements={can(me, 'engagement.open')}
          onOpen={onOpen}
        />
      ))}
    </List>
  );
}

const inSentence = (words: string): string => `${words.charAt(0).toLowerCase()}${words.slice(1)}`;

/** Kinds that are switched off, and snoozed notices. */
function Below({ notices, onChoose }: { readonly notices: Notices | undefined; readonly onChoose: () => void }) {
  const { today, zone } = useWho();
  const { data } = useNoticeChoices();
  const off = (data?.kinds ?? []).filter(({ screen }) => !screen).map(({ kind }) => inSentence(NOTICE_KIND_WORDS[kind]));
  const snoozed = notices?.snoozed ?? null;
  return (
    <Foot>
      <p>
        <span>
          {off.length === 0 ? (
            'You are told about everything that concerns you.'
          ) : (
            <>
              <b>Quiet:</b> {off.join('; ')}
            </>
          )}
        </span>
        <Button kind="quiet" onPress={onChoose}>
          Choose notices
        </Button>
      </p>
      {snoozed === null ? null : (
        <p>
          <span>
            {count(snoozed.ids.length, 'notice comes', 'notices come')} back {dayWords(dayOf(snoozed.until, zone), today)} at{' '}
            {timeWords(snoozed.until, zone)}
          </span>
          <Button kind="quiet" onPress={() => bringBack(snoozed.ids)}>
            Show now
          </Button>
        </p>
      )}
    </Foot>
  );
}
