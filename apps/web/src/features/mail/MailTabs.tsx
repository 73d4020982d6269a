import { can } from '@crew/contract';
import { useNavigate } from 'react-router';
import { useWho } from '../../session/session.tsx';
import { Segmented } from '../../ui/Segmented.tsx';

const TABS = [
  { id: '/mail', name: 'Mailboxes', action: 'mailbox.read' },
  { id: '/mail/sent', name: 'Sent and answered', action: 'mail.read' },
  { id: '/mail/server', name: 'Mail server', action: 'mail.server' },
] as const;

/** The parts of the place Mail, as far as they are open to whoever looks. */
export function MailTabs({ shown }: { readonly shown: (typeof TABS)[number]['id'] }) {
  const navigate = useNavigate();
  const me = useWho();
  const parts = TABS.filter(({ action }) => can(me, action));
  if (parts.length < 2) return null;
  return <Segmented label="Part of Mail" parts={parts} value={shown} onChange={(path) => void navigate(path)} />;
}
