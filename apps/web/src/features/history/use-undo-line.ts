import type { HistoryLine } from '@crew/contract';
import { useState } from 'react';
import { perform, undoChange } from '../../session/perform.ts';

/** Undoing or bringing back what a line of the history tells of. */
export function useUndoLine(line: HistoryLine): {
  readonly name: 'Undo' | 'Redo' | null;
  readonly isBusy: boolean;
  readonly act: () => void;
} {
  const [isBusy, setBusy] = useState(false);
  const id = line.redoId ?? (line.canUndo ? line.changeId : null);
  const undo = async (changeId: string): Promise<void> => {
    setBusy(true);
    await perform({ send: () => undoChange(changeId), said: (said) => (line.redoId === null ? said : said.replace(/^Undone/, 'Redone')) });
    setBusy(false);
  };
  return {
    name: id === null ? null : line.redoId === null ? 'Undo' : 'Redo',
    isBusy,
    act: () => (id === null ? undefined : void undo(id)),
  };
}
