import { can, type Me } from '@crew/contract';
import { useEffect, useSyncExternalStore } from 'react';
import { isTyping } from '../ui/use-key.ts';

/** Where one can go from everywhere, with the number of things that wait there. */
export interface PlaceOf {
  readonly to: string;
  readonly name: string;
  readonly about: string;
  readonly count: number;
  /** In the bar everywhere, in the bar where there is room and under More on a phone, or always under More. */
  readonly part: 'bar' | 'wide' | 'more';
}

/** The places open to somebody, in their order. */
export function placesOf(me: Me): readonly PlaceOf[] {
  const isStaff = can(me, 'engagement.open');
  const looksAfterCrew = can(me, 'crew.edit');
  const place = (part: PlaceOf['part'], to: string, [name, about, count = 0]: readonly [string, string, number?]): PlaceOf => ({
    ...{ to, name, about, count, part },
  });
  return [
    place('bar', '/desk', ['My desk', 'your own work', me.counts.desk]),
    ...(isStaff ? [place('bar', '/engagements', ['Engagements', 'all work for clients, along time'])] : []),
    ...(can(me, 'handoff.read') ? [place('bar', '/handoffs', ['Handoffs', 'whose turn it is, rules', me.counts.handoffs])] : []),
    ...(isStaff ? [place('wide', '/workload', ['Workload', 'hours planned and available'])] : []),
    place('bar', '/time', ['Time', 'hours logged']),
    ...(isStaff ? [place('wide', '/templates', ['Templates', 'how engagements run'])] : []),
    place('more', '/calendar', ['Calendar', isStaff ? 'closed days, who is away' : 'closed days, when you are away']),
    ...(isStaff ? [place('more', '/clients', ['Clients', 'contacts and their engagements'])] : []),
    ...(looksAfterCrew ? [place('more', '/crew', ['Crew', 'people, roles, hours, access'])] : []),
    ...(isStaff ? [place('more', '/history', ['History', 'who changed what, and undo'])] : []),
    place('more', '/mail', ['Mail', looksAfterCrew ? 'mailboxes, sent mail, replies' : 'what the app has mailed you']),
    place('more', '/guide', ['Guide', 'how things are done, on one page each']),
    place('more', '/settings', [
      'Settings',
      can(me, 'agency.edit-settings') ? 'your account, the agency, security' : 'your account and display',
    ]),
  ];
}

export const isHere = ({ to }: Pick<PlaceOf, 'to'>, pathname: string): boolean => pathname === to || pathname.startsWith(`${to}/`);

/** 1, 2, 3 … go to the places of the bar, in their order. */
export function usePlaceKeys(places: readonly PlaceOf[], onGo: (path: string) => void): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented || isTyping(event)) return;
      const place = /^[1-9]$/.test(event.key) ? places.filter(({ part }) => part !== 'more')[Number(event.key) - 1] : undefined;
      if (place === undefined) return;
      event.preventDefault();
      onGo(place.to);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [places, onGo]);
}

const PHONE = '(max-width: 720px)';
const follow = (onChange: () => void): (() => void) => {
  const asked = window.matchMedia(PHONE);
  asked.addEventListener('change', onChange);
  return () => asked.removeEventListener('change', onChange);
};

/** Whether the bar is at the foot of a phone. */
export const useIsPhone = (): boolean => useSyncExternalStore(follow, () => window.matchMedia(PHONE).matches);
