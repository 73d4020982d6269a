import type { Me } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { mutate } from 'swr';
import { call, troubleWords } from '../../api/client.ts';
import { Button } from '../../ui/Button.tsx';
import { Push } from '../../ui/layout.tsx';
import { notify } from '../../ui/toasts.tsx';
import { phone } from '../../ui/tokens.ts';
import { count, instantWords } from '../../words/format.ts';

const Strip = styled.section`
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 7px 16px;
  background: var(--brick-soft);
  color: var(--ink);
  border-bottom: 1px solid var(--brick);
  ${phone} {
    padding: 8px 12px;
    flex-wrap: wrap;
  }
`;

/** Tells somebody that wrong passwords were tried for their account before they signed in, until they have read it. */
export function WrongPasswords({ me }: { readonly me: Pick<Me, 'wrongPasswords' | 'today' | 'zone' | 'access' | 'agencyName'> }) {
  const [isSeen, setSeen] = useState(false);
  if (me.wrongPasswords === null || isSeen) return null;
  const see = (): void => {
    setSeen(true);
    call('DELETE', '/session/wrong-passwords')
      .then(() => mutate('/session'))
      .catch((error: unknown) => notify(troubleWords(error), { tone: 'trouble' }));
  };
  return (
    <Strip role="status" aria-label="About your account" data-screen-only>
      <span>
        {count(me.wrongPasswords.count, 'wrong password')} {me.wrongPasswords.count === 1 ? 'was' : 'were'} tried for your account since{' '}
        {instantWords(me.wrongPasswords.since, me)}. If that was not you, tell{' '}
        {me.access === 'client' ? me.agencyName : 'an owner of your agency'}.
      </span>
      <Push />
      <Button onPress={see}>Mark as seen</Button>
    </Strip>
  );
}
