import { perform, type Performed, type Step } from '../../session/perform.ts';
import { useState } from 'react';

/** One change of the calendar: what went wrong stays until the next try, where it was made. */
export function useAct() {
  const [trouble, setTrouble] = useState<string>();
  const [isBusy, setBusy] = useState(false);
  const act = async <Answer>(step: Omit<Step<Answer>, 'onTrouble'>): Promise<Performed<Answer>> => {
    setBusy(true);
    setTrouble(undefined);
    const performed = await perform({ ...step, onTrouble: setTrouble });
    setBusy(false);
    return performed;
  };
  return { act, trouble, isBusy };
}
