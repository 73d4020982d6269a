import { can } from '@crew/contract';
import { useSentMail } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Muted } from '../../ui/layout.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { instantWords } from '../../words/format.ts';
import { Reply } from './Reply.tsx';

/** What was mailed about a handoff, and answered; for leads, as part of its sheet. */
export function HandoffMail({ handoffId }: { readonly handoffId: string }) {
  const me = useWho();
  const { data } = useSentMail(can(me, 'mail.read') ? `handoff=${handoffId}` : null);
  if (data === undefined || data.mails.length === 0) return null;
  return (
    <SheetPart>
      <h3>Mail</h3>
      {data.mails.map(({ id, to, subject, at, state, replies }) => (
        <div key={id}>
          <p>
            {state === 'undeliverable' ? 'Not delivered to' : 'To'} {to.name}: {subject} <Muted>{instantWords(at, me)}</Muted>
          </p>
          {replies.map((reply) => (
            <Reply key={reply.id} reply={reply} />
          ))}
        </div>
      ))}
    </SheetPart>
  );
}
