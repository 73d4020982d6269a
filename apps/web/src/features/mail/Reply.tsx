import type { MailReply } from '@crew/contract';
import { useWho } from '../../session/session.tsx';
import { Muted } from '../../ui/layout.tsx';
import { instantWords } from '../../words/format.ts';
import { RepliedText } from './RepliedText.tsx';

const REPLY_WORDS: Readonly<Record<MailReply['state'], string>> = {
  ...{ kept: 'answered', acted: 'answered', refused: 'was refused', dropped: 'answered automatically', bounce: 'came back' },
};

/** An answer with what came of it. */
export function Reply({ reply }: { readonly reply: MailReply }) {
  const me = useWho();
  return (
    <div>
      <Muted>
        <strong>{reply.from}</strong> {REPLY_WORDS[reply.state]} {instantWords(reply.at, me)}
        {reply.said === '' ? '' : `. ${reply.said}`}
      </Muted>
      <RepliedText reply={reply} />
    </div>
  );
}
