import { useCallback, useState } from 'react';
import { Menu, MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { PopoverPanel } from '../ui/Field.tsx';
import { MenuChoice } from '../ui/MenuChoice.tsx';
import { useKey } from '../ui/use-key.ts';
import { PlaceButton } from './bar.ts';
import { isHere, useIsPhone, type PlaceOf } from './places.ts';

const Choice = styled(MenuChoice)`
  small {
    display: block;
    color: var(--ink-2);
    font-size: 12px;
  }
`;

interface MoreMenuProps {
  readonly places: readonly PlaceOf[];
  readonly pathname: string;
  readonly onGo: (path: string) => void;
}

/** The places that are not in the bar; `m` opens it. */
export function MoreMenu({ places, pathname, onGo }: MoreMenuProps) {
  const [isOpen, setOpen] = useState(false);
  const open = useCallback(() => setOpen(true), []);
  useKey('m', open);
  const isPhone = useIsPhone();
  const shown = places.filter(({ part }) => part === 'more' || (part === 'wide' && isPhone));
  const here = shown.find((place) => isHere(place, pathname));
  return (
    <MenuTrigger isOpen={isOpen} onOpenChange={setOpen}>
      <PlaceButton $isHere={here !== undefined} aria-label={here === undefined ? 'More' : `More, now ${here.name}`}>
        {here === undefined || isPhone ? 'More' : here.name}
        {isPhone ? null : <span aria-hidden="true">▾</span>}
      </PlaceButton>
      <PopoverPanel placement="bottom start">
        <Menu aria-label="More" onAction={(key) => onGo(String(key))}>
          {shown.map(({ to, name, about }) => (
            <Choice key={to} id={to} textValue={name}>
              {name}
              <small>{about}</small>
            </Choice>
          ))}
        </Menu>
      </PopoverPanel>
    </MenuTrigger>
  );
}
