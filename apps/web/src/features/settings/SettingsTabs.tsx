import { can } from '@crew/contract';
import { useNavigate } from 'react-router';
import { useWho } from '../../session/session.tsx';
import { Segmented } from '../../ui/Segmented.tsx';

const TABS = [
  { id: '/settings', name: 'Your account', action: 'account.use' },
  { id: '/settings/agency', name: 'Agency', action: 'agency.edit-settings' },
  { id: '/settings/lists', name: 'Roles and labels', action: 'role.edit' },
  { id: '/settings/set-up', name: 'First steps', action: 'agency.edit-settings' },
  { id: '/settings/security', name: 'Security log', action: 'security.read' },
] as const;

/** The parts of Settings, as far as they are open to whoever looks. */
export function SettingsTabs({ shown }: { readonly shown: (typeof TABS)[number]['id'] }) {
  const navigate = useNavigate();
  const me = useWho();
  const parts = TABS.filter(({ action }) => can(me, action));
  if (parts.length < 2) return null;
  return <Segmented label="Part of Settings" parts={parts} value={shown} onChange={(path) => void navigate(path)} />;
}
