import type { MailLink } from '@crew/contract';
import { useEffect, useRef, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { call } from '../../api/client.ts';
import { notify } from '../../ui/toasts.tsx';
import { Empty, ErrorNote, Loading, Page } from '../../ui/layout.tsx';
import { ButtonLink } from '../../ui/Button.tsx';

/** Where a link in a mail leads: on to its handoff, once whoever opened it is signed in. */
export function FromMailPage() {
  const { token = '' } = useParams();
  const navigate = useNavigate();
  const [error, setError] = useState<unknown>(null);
  const isAsked = useRef(false);
  useEffect(() => {
    // The link works once: sent twice, the second answer would say that it was used.
    if (isAsked.current) return;
    isAsked.current = true;
    call<MailLink>('POST', '/mail/links/open', { token })
      .then(({ handoffId, isSpent }) => {
        if (isSpent) notify('This link was used before, or the handoff has moved on since. This is its current state.');
        return navigate(`/handoffs?handoff=${handoffId}`, { replace: true });
      })
      .catch(setError);
  }, [token, navigate]);
  if (error === null) return <Page>{<Loading />}</Page>;
  return (
    <Page>
      <ErrorNote error={error} />
      <Empty title="You cannot open this link.">
        <ButtonLink href="/handoffs">Open Handoffs</ButtonLink>
      </Empty>
    </Page>
  );
}
