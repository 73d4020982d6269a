import { count, hourWords } from '../words/format.ts';
import { Toned } from './text.tsx';

/** That some work has no effort, and what it counts instead; nothing where all of it has. */
export function Unestimated({ tasks, minutesEach }: { readonly tasks: number; readonly minutesEach: number }) {
  if (tasks === 0) return null;
  const each = tasks === 1 ? '' : ' each';
  return (
    <Toned $tone="waiting">
      {count(tasks, 'task')} without an estimate, counted at {hourWords(minutesEach)}
      {each}
    </Toned>
  );
}
