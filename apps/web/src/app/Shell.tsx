import { Mark } from '../ui/Mark.tsx';
import { can, type Me } from '@crew/contract';
import { useEffect } from 'react';
import { Link, MenuTrigger, Menu, Button as AriaButton } from 'react-aria-components';
import { Outlet, useLocation, useNavigate } from 'react-router';
import styled from 'styled-components';
import { mutate } from 'swr';
import { call, troubleWords } from '../api/client.ts';
import { PopoverPanel } from '../ui/Field.tsx';
import { MenuChoice } from '../ui/MenuChoice.tsx';
import { hiddenText, phone } from '../ui/tokens.ts';
import { forgetSteps, notify, undoLast } from '../ui/toasts.tsx';
import { WrongPasswords } from '../features/sign-in/WrongPasswords.tsx';
import { NoticeBell } from '../features/notice/NoticeBell.tsx';
import { TimerChip } from '../features/timer/TimerChip.tsx';
import { useWho } from '../session/session.tsx';
import { useChanges } from './use-changes.ts';
import { usePresence } from './use-presence.ts';
import { useHeadingFocus } from './use-heading-focus.ts';
import { useKey } from '../ui/use-key.ts';
import { Shortcuts } from './Shortcuts.tsx';
import { keptRows, keptTheme, setRows, wearTheme, type Rows, type Theme } from './theme.ts';

const Content = styled.main`
  outline: none;
`;

const Bar = styled.header`
  position: sticky;
  top: 0;
  z-index: 20;
  display: flex;
  align-items: center;
  gap: 4px;
  height: 46px;
  padding: 0 16px;
  background: var(--bar);
  color: var(--bar-ink);
  ${phone} {
    padding: 0 12px;
  }
`;
const Brand = styled.span`
  display: flex;
  align-items: center;
  gap: 9px;
  margin-right: 14px;
  font:
    650 16px 'Bricolage Grotesque Variable',
    sans-serif;
  color: #fff;
  white-space: nowrap;
`;
const Skip = styled.a`
  &:not(:focus) {
    ${hiddenText}
  }
  &:focus {
    position: fixed;
    left: 12px;
    top: 8px;
    z-index: 50;
    background: var(--panel);
    color: var(--ink);
    padding: 6px 12px;
    border-radius: 5px;
  }
`;
const Places = styled.nav`
  display: flex;
  gap: 2px;
  ${phone} {
    position: fixed;
    inset: auto 0 0 0;
    z-index: 20;
    height: 56px;
    background: var(--bar);
    justify-content: space-around;
    align-items: center;
  }
`;
const Place = styled(Link)<{ $isHere: boolean; $isWideOnly?: boolean | undefined }>`
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 6px 11px;
  border-radius: 6px;
  text-decoration: none;
  color: ${({ $isHere }) => ($isHere ? '#fff' : 'var(--bar-ink)')};
  background: ${({ $isHere }) => ($isHere ? 'var(--bar-2)' : 'transparent')};
  font-size: 13.5px;
  white-space: nowrap;
  &[data-hovered] {
    background: var(--bar-2);
  }
  &[data-focus-visible] {
    outline-color: var(--ember);
  }
  ${phone} {
    display: ${({ $isWideOnly }) => ($isWideOnly ? 'none' : 'flex')};
    position: relative;
    flex-direction: column;
    gap: 3px;
    padding: 6px 4px;
    background: transparent;
    font-size: 11px;
    &::before {
      content: '';
      width: 22px;
      height: 4px;
      border-radius: 2px;
      background: ${({ $isHere }) => ($isHere ? 'var(--ember)' : 'var(--bar-2)')};
    }
  }
`;
const Count = styled.span`
  ${phone} {
    position: absolute;
    top: -7px;
    right: 2px;
  }
  min-width: 16px;
  padding: 0 4px;
  border-radius: 8px;
  background: var(--ember);
  color: #1b1208;
  font-size: 11px;
  font-weight: 700;
  text-align: center;
  line-height: 16px;
`;
const MeButton = styled(AriaButton)`
  margin-left: 12px;
  min-width: 27px;
  height: 25px;
  border: 0;
  border-radius: 6px;
  background: #cddad4;
  color: #14262a;
  font-size: 11px;
  font-weight: 700;
  cursor: pointer;
`;
const MeLine = styled.p`
  padding: 6px 10px 8px;
  font-size: 12.5px;
  color: var(--ink-2);
  border-bottom: 1px solid var(--line-2);
  margin-bottom: 4px;
`;

const THEMES: readonly { readonly id: Theme; readonly name: string }[] = [
  { id: 'system', name: 'Match system' },
  { id: 'light', name: 'Light' },
  { id: 'dark', name: 'Dark' },
];

const ROWS: readonly { readonly id: Rows; readonly name: string }[] = [
  { id: 'dense', name: 'Compact rows' },
  { id: 'roomy', name: 'Comfortable rows' },
];

/** Where one can go from everywhere, with what waits there. */
function placesOf(me: Me) {
  const isStaff = can(me, 'engagement.open');
  return [
    { to: '/desk', name: 'My desk', count: me.counts.desk },
    { to: '/time', name: 'Time', count: 0 },
    ...(isStaff ? [{ to: '/engagements', name: 'Engagements', count: 0 }] : []),
    ...(isStaff ? [{ to: '/workload', name: 'Workload', count: 0 }] : []),
    ...(can(me, 'handoff.read') ? [{ to: '/handoffs', name: 'Handoffs', count: me.counts.handoffs }] : []),
    // On a phone it stands in the menu: hours are logged every day, templates are drawn at a desk.
    ...(isStaff ? [{ to: '/templates', name: 'Templates', count: 0, isWideOnly: true }] : []),
  ];
}

/** The bar on top and the page below it. */
export function Shell() {
  const me = useWho();
  const { pathname } = useLocation();
  useEffect(() => {
    wearTheme(keptTheme());
    setRows(keptRows());
  }, []);
  useChanges();
  usePresence();
  useHeadingFocus(pathname);
  useKey('u', undoLast);
  const isStaff = can(me, 'engagement.open');
  const places = placesOf(me);
  return (
    <>
      <Skip href="#content">Skip to content</Skip>
      <Bar data-screen-only>
        <Brand>
          <Mark />
          Nimble Crew
        </Brand>
        <Places aria-label="Places">
          {places.map((place) => (
            <Place
              key={place.to}
              href={place.to}
              $isHere={pathname.startsWith(place.to)}
              $isWideOnly={'isWideOnly' in place ? place.isWideOnly : false}
              aria-current={pathname.startsWith(place.to) ? 'page' : undefined}
            >
              {place.name}
              {place.count > 0 ? <Count aria-label={`${place.count} waiting for you`}>{place.count}</Count> : null}
            </Place>
          ))}
        </Places>
        <TimerChip />
        {can(me, 'notice.use') ? <NoticeBell /> : null}
        <MeMenu
          isStaff={isStaff}
          mayLookAfter={can(me, 'crew.edit')}
          mayTellPrograms={can(me, 'webhook.edit')}
          name={me.name}
          initials={me.initials}
          line={`${can(me, 'engagement.edit') ? 'Lead' : 'Crew'} at ${me.agencyName}`}
        />
      </Bar>
      <WrongPasswords me={me} />
      <Content id="content" tabIndex={-1}>
        <Outlet />
      </Content>
      <Shortcuts />
    </>
  );
}

interface MeMenuProps {
  readonly name: string;
  readonly initials: string;
  readonly line: string;
  readonly isStaff: boolean;
  readonly mayLookAfter: boolean;
  readonly mayTellPrograms: boolean;
}

function MeMenu({ name, initials, line, isStaff, mayLookAfter, mayTellPrograms }: MeMenuProps) {
  const navigate = useNavigate();
  const signOut = async (): Promise<void> => {
    await call('DELETE', '/session');
    forgetSteps();
    await mutate(() => true, undefined, { revalidate: false });
    await navigate('/sign-in');
  };
  const choose = (key: string): void => {
    if (ROWS.some((rows) => rows.id === key)) return setRows(key as Rows);
    if (
      key === 'crew' ||
      key === 'calendar' ||
      key === 'templates' ||
      key === 'history' ||
      key === 'clients' ||
      key === 'mail' ||
      key === 'webhooks'
    )
      return void navigate(`/${key}`);
    if (key !== 'out') return wearTheme(key as Theme);
    signOut().catch((error: unknown) => notify(troubleWords(error), { tone: 'trouble' }));
  };
  return (
    <MenuTrigger>
      <MeButton aria-label={`${name}: theme and signing out`}>{initials}</MeButton>
      <PopoverPanel placement="bottom end">
        <MeLine>
          <strong>{name}</strong>
          <br />
          {line}
        </MeLine>
        <Menu aria-label={name} onAction={(key) => choose(String(key))}>
          {isStaff ? <MenuChoice id="templates">Templates: how engagements run</MenuChoice> : null}
          <MenuChoice id="calendar">{isStaff ? 'Calendar: closed days, who is away' : 'Calendar: closed days, when I am away'}</MenuChoice>
          {isStaff ? <MenuChoice id="clients">Clients: contacts, what is done for them</MenuChoice> : null}
          {isStaff ? <MenuChoice id="history">History: who changed what, and undo</MenuChoice> : null}
          <MenuChoice id="mail">{mayLookAfter ? 'Mail: mailboxes, sent mail, answers' : 'Mail: what the app has mailed me'}</MenuChoice>
          {mayTellPrograms ? <MenuChoice id="webhooks">Webhooks: programs that are told of events</MenuChoice> : null}
          {mayLookAfter ? <MenuChoice id="crew">Crew: people, roles and hours</MenuChoice> : null}
          {THEMES.map((theme) => (
            <MenuChoice key={theme.id} id={theme.id}>
              {theme.name}
            </MenuChoice>
          ))}
          {ROWS.map((rows) => (
            <MenuChoice key={rows.id} id={rows.id}>
              {rows.name}
            </MenuChoice>
          ))}
          <MenuChoice id="out">Sign out</MenuChoice>
        </Menu>
      </PopoverPanel>
    </MenuTrigger>
  );
}
