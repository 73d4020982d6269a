import { perform } from '../../session/perform.ts';
import { useState } from 'react';

/** One change of the calendar: what went wrong stays until the next try; what is shown is asked for again. */
export function useAct() {
  const [trouble, setTrouble] = useState<string>();
  const [isBusy, setBusy] = useState(false);
  const act = async (work: () => Promise<void>): Promise<boolean> => {
    setBusy(true);
    setTrouble(undefined);
    const { isDone } = await perform({ send: work, onTrouble: setTrouble });
    setBusy(false);
    return isDone;
  };
  return { act, trouble, isBusy, clear: () => setTrouble(undefined) };
}
