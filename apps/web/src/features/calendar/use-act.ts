import { useState } from 'react';
import { refreshAll } from '../../api/queries.ts';

/** One change of the calendar: what went wrong stays until the next try; what is shown is asked for again. */
export function useAct() {
  const [trouble, setTrouble] = useState<string>();
  const [isBusy, setBusy] = useState(false);
  const act = async (work: () => Promise<void>): Promise<boolean> => {
    setBusy(true);
    setTrouble(undefined);
    try {
      await work();
      await refreshAll();
      return true;
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : 'This was not saved.');
      return false;
    } finally {
      setBusy(false);
    }
  };
  return { act, trouble, isBusy, clear: () => setTrouble(undefined) };
}
