import type { HistoryLine } from '@crew/contract';
import { useState } from 'react';
import { notify } from '../../ui/toasts.tsx';
import { undoChange } from '../plan-change/use-proposal.ts';

/** Undoing or bringing back what a line of the history tells of. */
export function useUndoLine(line: HistoryLine): {
  readonly name: 'Undo' | 'Redo' | null;
  readonly isBusy: boolean;
  readonly act: () => void;
} {
  const [isBusy, setBusy] = useState(false);
  const id = line.redoId ?? (line.canUndo ? line.changeId : null);
  const act = (): void => {
    if (id === null) return;
    setBusy(true);
    undoChange(id)
      .then((said) => notify(line.redoId === null ? said : said.replace(/^Undone/, 'Redone')))
      .catch((error: unknown) => notify(error instanceof Error ? error.message : 'This was not undone. Try again.', { tone: 'trouble' }))
      .finally(() => setBusy(false));
  };
  return { name: id === null ? null : line.redoId === null ? 'Undo' : 'Redo', isBusy, act };
}
