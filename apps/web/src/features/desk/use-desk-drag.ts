import { useDragAndDrop, type DropItem } from 'react-aria-components';
import type { Arranged } from './use-arrange.ts';

/** What a dragged task carries with it; only desks know it. */
const TYPE = 'application/x-crew-desk-task';

const write = (task: Arranged): Record<string, string> => ({ [TYPE]: JSON.stringify(task), 'text/plain': task.title });

async function read(items: readonly DropItem[]): Promise<Arranged | null> {
  const item = items.find((each) => each.kind === 'text' && each.types.has(TYPE));
  return item?.kind === 'text' ? (JSON.parse(await item.getText(TYPE)) as Arranged) : null;
}

interface DragSpec {
  readonly tasks: readonly Arranged[];
  /** Takes what is dropped: before the task with this id, or last. Left out, nothing can be dropped here. */
  readonly onDrop?: (task: Arranged, beforeId: string | null) => void;
}

/** Drag and drop of one list of a desk, by pointer, keyboard and screen reader. One task at a time. */
export function useDeskDrag({ tasks, onDrop }: DragSpec) {
  const drop = async (items: readonly DropItem[], beforeId: string | null): Promise<void> => {
    const task = await read(items);
    if (task !== null && task.id !== beforeId) onDrop?.(task, beforeId);
  };
  /** The task that will stand after the gap something is dropped into. */
  const behind = (target: { readonly key: string | number; readonly dropPosition: string }): string | null => {
    const place = tasks.findIndex((task) => task.id === target.key);
    return tasks[target.dropPosition === 'before' ? place : place + 1]?.id ?? null;
  };
  const { dragAndDropHooks } = useDragAndDrop({
    getItems: (keys) => tasks.filter((task) => [...keys][0] === task.id).map(write),
    acceptedDragTypes: onDrop === undefined ? [] : [TYPE],
    getDropOperation: () => 'move',
    onInsert: (event) => void drop(event.items, behind(event.target)),
    onRootDrop: (event) => void drop(event.items, null),
    ...(onDrop === undefined
      ? {}
      : {
          onReorder: (event: {
            readonly keys: Set<string | number>;
            readonly target: { readonly key: string | number; readonly dropPosition: string };
          }) => {
            const task = tasks.find((each) => event.keys.has(each.id));
            const beforeId = behind(event.target);
            if (task !== undefined && task.id !== beforeId) onDrop(task, beforeId);
          },
        }),
  });
  return dragAndDropHooks;
}
