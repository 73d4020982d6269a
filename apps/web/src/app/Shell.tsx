import { Mark } from '../ui/Mark.tsx';
import { can, type Me } from '@crew/contract';
import { useEffect } from 'react';
import { MenuTrigger, Menu, Button as AriaButton } from 'react-aria-components';
import { Navigate, Outlet, useLocation, useNavigate } from 'react-router';
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
import { keptDateLanguage, setDateLanguage } from '../session/date-language.ts';
import { keptRows, keptTheme, setRows, wearTheme } from '../session/display.ts';
import { MoreMenu } from './MoreMenu.tsx';
import { isHere, placesOf, usePlaceKeys } from './places.ts';
import { Place, Count } from './bar.ts';
import { Shortcuts } from './Shortcuts.tsx';

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

/** The bar on top and the page below it. */
export function Shell() {
  const me = useWho();
  const { pathname } = useLocation();
  const navigate = useNavigate();
  useEffect(() => {
    wearTheme(keptTheme());
    setRows(keptRows());
    setDateLanguage(keptDateLanguage());
  }, []);
  useChanges();
  usePresence();
  useHeadingFocus(pathname);
  useKey('u', undoLast);
  const places = placesOf(me);
  const goTo = (path: string): void => void navigate(path);
  usePlaceKeys(places, goTo);
  if (me.mustAddSecondFactor && pathname !== '/settings') return <Navigate to="/settings" replace />;
  return (
    <>
      <Skip href="#content">Skip to content</Skip>
      <Bar data-screen-only>
        <Brand>
          <Mark />
          Nimble Crew
        </Brand>
        <Places aria-label="Main">
          {places
            .filter(({ part }) => part !== 'more')
            .map((place) => (
              <Place
                key={place.to}
                href={place.to}
                $isHere={isHere(place, pathname)}
                $isWideOnly={place.part === 'wide'}
                aria-current={isHere(place, pathname) ? 'page' : undefined}
              >
                {place.name}
                {place.count > 0 ? <Count aria-label={`${place.count} waiting for you`}>{place.count}</Count> : null}
              </Place>
            ))}
          <MoreMenu places={places} pathname={pathname} onGo={goTo} />
        </Places>
        <TimerChip />
        {can(me, 'notice.use') && !me.mustAddSecondFactor ? <NoticeBell /> : null}
        <MeMenu name={me.name} initials={me.initials} line={`${ACCESS_LINE[me.access]} at ${me.agencyName}`} onGo={goTo} />
      </Bar>
      <WrongPasswords me={me} />
      <Content id="content" tabIndex={-1}>
        <Outlet />
      </Content>
      <Shortcuts />
    </>
  );
}

const ACCESS_LINE: Readonly<Record<Me['access'], string>> = {
  ...{ owner: 'Owner', lead: 'Lead', member: 'Member', freelancer: 'Freelancer', client: 'Client' },
};

interface MeMenuProps {
  readonly name: string;
  readonly initials: string;
  readonly line: string;
  readonly onGo: (path: string) => void;
}

function MeMenu({ name, initials, line, onGo }: MeMenuProps) {
  const signOut = async (): Promise<void> => {
    await call('DELETE', '/session');
    forgetSteps();
    await mutate(() => true, undefined, { revalidate: false });
    onGo('/sign-in');
  };
  const choose = (key: string): void => {
    if (key === 'settings') return onGo('/settings');
    signOut().catch((error: unknown) => notify(troubleWords(error), { tone: 'trouble' }));
  };
  return (
    <MenuTrigger>
      <MeButton aria-label={`${name}: your settings, sign out`}>{initials}</MeButton>
      <PopoverPanel placement="bottom end">
        <MeLine>
          <strong>{name}</strong>
          <br />
          {line}
        </MeLine>
        <Menu aria-label={name} onAction={(key) => choose(String(key))}>
          <MenuChoice id="settings">Your settings</MenuChoice>
          <MenuChoice id="out">Sign out</MenuChoice>
        </Menu>
      </PopoverPanel>
    </MenuTrigger>
  );
}
