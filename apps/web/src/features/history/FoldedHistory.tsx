import { reachOf, type EventSubject } from '@crew/contract';
import { useState } from 'react';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { historyOf, ThingHistory } from './ThingHistory.tsx';

/** What happened to one thing, on its sheet, once it is asked for; for those who read the agency's history. */
export function FoldedHistory({ subject, id }: { readonly subject: EventSubject; readonly id: string }) {
  const me = useWho();
  const [isOpen, setOpen] = useState(false);
  if (reachOf(me, 'history.read') !== 'all') return null;
  return (
    <SheetPart aria-label="History">
      <Button kind="quiet" isFlush aria-expanded={isOpen} onPress={() => setOpen(!isOpen)}>
        {isOpen ? 'Hide history' : 'Show history'}
      </Button>
      {isOpen ? <ThingHistory query={historyOf(subject, id)} /> : null}
    </SheetPart>
  );
}
