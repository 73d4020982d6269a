import { useState } from 'react';

/** A value being typed, and what it began from. */
export interface Draft<Value> {
  readonly value: Value;
  /** The saved value the typing began from, for undo and to see whether anything differs. */
  readonly base: Value;
  /** The version of the task at that moment: saving with it tells of a change made by others since. */
  readonly version: number;
  readonly change: (value: Value) => void;
  /** Forgets what was typed and follows the saved value again. */
  readonly drop: () => void;
}

/**
 * Follows the saved value, as others change it, until somebody types. When what was typed meets
 * somebody else's change (`isMet`) it stays, and once one of the two was chosen it is forgotten.
 */
export function useDraft<Value>(saved: Value, version: number, isMet = false): Draft<Value> {
  const [typed, setTyped] = useState<{ readonly value: Value; readonly base: Value; readonly version: number } | null>(null);
  const [wasMet, setWasMet] = useState(isMet);
  if (wasMet !== isMet) {
    setWasMet(isMet);
    if (wasMet) setTyped(null);
  }
  const now = typed ?? { value: saved, base: saved, version };
  return {
    ...now,
    change: (value) => setTyped({ ...now, value }),
    drop: () => setTyped(null),
  };
}
