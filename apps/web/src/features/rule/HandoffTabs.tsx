import { useNavigate } from 'react-router';
import { Segmented } from '../../ui/Segmented.tsx';

const TABS = [
  { id: '/handoffs', name: 'Handoffs' },
  { id: '/handoffs/rules', name: 'Rules' },
  { id: '/handoffs/speed', name: 'Handoff times' },
] as const;

/** The parts of the place Handoffs. */
export function HandoffTabs({ shown }: { readonly shown: (typeof TABS)[number]['id'] }) {
  const navigate = useNavigate();
  return <Segmented label="Part of Handoffs" parts={TABS} value={shown} onChange={(path) => void navigate(path)} />;
}
