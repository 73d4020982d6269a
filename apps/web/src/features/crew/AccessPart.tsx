import { can, type AccessLinkMade, type CrewMember } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { perform } from '../../session/perform.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { CopyLine } from '../../ui/CopyLine.tsx';
import { Inline } from '../../ui/layout.tsx';
import { Sheet, SheetPart, SheetTitle } from '../../ui/Sheet.tsx';
import { Note } from '../../ui/text.tsx';
import { instantWords } from '../../words/format.ts';

const Done = styled(Button)`
  margin-top: 12px;
`;

/** How somebody gets their link: it is in the mail, or has to be passed on by hand. */
function LinkMade({ made }: { readonly made: AccessLinkMade }) {
  const me = useWho();
  const until = `It works once, until ${instantWords(made.expiresAt, me)}.`;
  return (
    <>
      <Note>
        {made.mailedTo === null
          ? `No mail server is set up, so pass this link on yourself. ${until}`
          : `The link was mailed to ${made.mailedTo}. ${until} You can also pass it on yourself:`}
      </Note>
      <CopyLine label={`Link for ${made.name}`} text={made.link} />
    </>
  );
}

/** Somebody was just invited. */
export function InvitedSheet({ made, onClose }: { readonly made: AccessLinkMade; readonly onClose: () => void }) {
  return (
    <Sheet label="Person" line="Invite a person" onClose={onClose}>
      <SheetTitle>{made.name} is invited</SheetTitle>
      <LinkMade made={made} />
      <Done onPress={onClose}>Close</Done>
    </Sheet>
  );
}

/** How a colleague gets in: their invitation, or a link for a new password. An owner's is for owners to make. */
export function AccessPart({ member }: { readonly member: CrewMember }) {
  const me = useWho();
  const [made, setMade] = useState<AccessLinkMade | null>(null);
  if (!member.isActive || (member.access === 'owner' && !can(me, 'crew.edit-owners'))) return null;
  const path = `/crew/${member.id}/access-link`;
  const send = async (): Promise<void> => {
    const sent = await perform({
      send: () => call<AccessLinkMade>('POST', path),
      said: ({ mailedTo }) => (mailedTo === null ? `Link for ${member.name} is ready to copy.` : `Link mailed to ${mailedTo}.`),
    });
    if (sent.isDone) setMade(sent.answer);
  };
  const show = async (): Promise<void> => {
    const shown = await perform({ send: () => call<AccessLinkMade>('GET', path) });
    if (shown.isDone) setMade(shown.answer);
  };
  const withdraw = async (): Promise<void> => {
    const { isDone } = await perform({ send: () => call('DELETE', path), said: `The invitation of ${member.name} is withdrawn.` });
    if (isDone) setMade(null);
  };
  const isInvited = !member.hasPassword && member.invitedUntil !== null;
  return (
    <SheetPart aria-label="Signing in">
      <h3>Signing in</h3>
      {made === null ? <Note>{stateWords(member, me)}</Note> : <LinkMade made={made} />}
      <Inline $gap={8}>
        <Button onPress={() => void send()}>{member.hasPassword ? 'Send link for a new password' : 'Send invitation again'}</Button>
        {isInvited ? (
          <>
            <Button kind="quiet" onPress={() => void show()}>
              Show link
            </Button>
            <Button kind="quiet" onPress={() => void withdraw()}>
              Withdraw invitation
            </Button>
          </>
        ) : null}
      </Inline>
    </SheetPart>
  );
}

function stateWords({ hasPassword, invitedUntil, email }: CrewMember, me: Parameters<typeof instantWords>[1]): string {
  if (hasPassword) return `Signs in as ${email}. If they forget their password, send them a link.`;
  if (invitedUntil !== null) return `Invited, and has not chosen a password yet. The link works until ${instantWords(invitedUntil, me)}.`;
  return 'Cannot sign in yet: the invitation has expired or was withdrawn.';
}
