import { lazy, Suspense, useCallback, useRef, useState } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import { useLocation } from 'react-router';
import styled from 'styled-components';
import { useNotices } from '../../api/queries.ts';
import { count } from '../../words/format.ts';

/** Loaded when it is asked for: the bell stands on every page. */
const NoticePanel = lazy(() => import('./NoticePanel.tsx').then((module) => ({ default: module.NoticePanel })));

const Bell = styled(AriaButton)`
  position: relative;
  display: grid;
  place-items: center;
  flex: none;
  width: 32px;
  height: 28px;
  margin-left: auto;
  border: 0;
  border-radius: 6px;
  background: transparent;
  color: var(--bar-ink);
  cursor: pointer;
  [role='group'] + & {
    margin-left: 8px;
  }
  &[aria-expanded='true'],
  &[data-hovered] {
    background: var(--bar-2);
  }
  &[data-focus-visible] {
    outline-color: var(--ember);
  }
`;
const Unread = styled.span`
  position: absolute;
  top: -4px;
  right: -4px;
  min-width: 16px;
  padding: 0 4px;
  border-radius: 8px;
  background: var(--ember);
  color: #1b1208;
  font-size: 11px;
  font-weight: 700;
  line-height: 16px;
  text-align: center;
`;

/** The bell in the bar: the number of unread notices, and all of them when pressed. */
export function NoticeBell() {
  // A link in a mail leads to the choice of what is mailed.
  const isToChoose = new URLSearchParams(useLocation().search).get('notices') === 'choose';
  const [isOpen, setOpen] = useState(isToChoose);
  const { data } = useNotices(isOpen);
  const bell = useRef<HTMLButtonElement>(null);
  const close = useCallback(() => {
    setOpen(false);
    bell.current?.focus();
  }, []);
  const unread = data?.unread ?? 0;
  return (
    <>
      <Bell
        ref={bell}
        aria-label={unread === 0 ? 'Notices' : `Notices, ${count(unread, 'unread', 'unread')}`}
        aria-expanded={isOpen}
        onPress={() => setOpen(!isOpen)}
      >
        <svg width="16" height="17" viewBox="0 0 16 17" fill="none" stroke="currentColor" strokeWidth="1.5" aria-hidden="true">
          <path d="M3.2 12.2 V7.4 a4.8 4.8 0 0 1 9.6 0 V12.2 M1.8 12.4 H14.2 M6.4 15 h3.2" strokeLinecap="round" />
        </svg>
        {unread === 0 ? null : <Unread aria-hidden="true">{unread > 99 ? '99+' : unread}</Unread>}
      </Bell>
      {isOpen ? (
        <Suspense>
          <NoticePanel isToChoose={isToChoose} onClose={close} />
        </Suspense>
      ) : null}
    </>
  );
}
