import { useDragAndDrop, type DropItem } from 'react-aria-components';
import { focusRowOnceMoved } from './focus-row.ts';

/** Something that can be dragged between lists: it travels as JSON. */
export interface Draggable {
  readonly id: string;
  readonly title: string;
}

interface ListDrag<Item extends Draggable> {
  /** Which lists exchange items: those of the same kind. */
  readonly kind: string;
  readonly items: readonly Item[];
  /** Takes what is dropped: before the item with this id, or last. Left out, nothing can be dropped here. */
  readonly onDrop?: (dropped: readonly Item[], beforeId: string | null) => void;
}

interface Target {
  readonly key: string | number;
  readonly dropPosition: string;
}

async function read<Item>(items: readonly DropItem[], type: string): Promise<Item[]> {
  const texts = items.map((item) => (item.kind === 'text' && item.types.has(type) ? item.getText(type) : null));
  return (await Promise.all(texts)).flatMap((text) => (text === null ? [] : [JSON.parse(text) as Item]));
}

/** Drag and drop of one of several lists, by pointer, keyboard and screen reader; what is chosen goes together. */
export function useListDrag<Item extends Draggable>({ kind, items, onDrop }: ListDrag<Item>) {
  const type = `application/x-crew-${kind}`;
  /** The item that will stand after the gap something is dropped into. */
  const behind = (target: Target): string | null => {
    const index = items.findIndex((item) => item.id === target.key);
    return items[target.dropPosition === 'before' ? index : index + 1]?.id ?? null;
  };
  const drop = (dropped: readonly Item[], beforeId: string | null): void => {
    const moved = dropped.filter((item) => item.id !== beforeId);
    const [first] = moved;
    if (first === undefined) return;
    focusRowOnceMoved(first.id);
    onDrop?.(moved, beforeId);
  };
  const { dragAndDropHooks } = useDragAndDrop({
    getItems: (keys) =>
      items
        .filter((item) => keys.has(item.id))
        .map((item): Record<string, string> => ({ [type]: JSON.stringify(item), 'text/plain': item.title })),
    acceptedDragTypes: onDrop === undefined ? [] : [type],
    getDropOperation: () => 'move',
    onInsert: (event) => void read<Item>(event.items, type).then((dropped) => drop(dropped, behind(event.target))),
    onRootDrop: (event) => void read<Item>(event.items, type).then((dropped) => drop(dropped, null)),
    ...(onDrop === undefined
      ? {}
      : {
          onReorder: (event: { readonly keys: Set<string | number>; readonly target: Target }) =>
            drop(
              items.filter((item) => event.keys.has(item.id)),
              behind(event.target),
            ),
        }),
  });
  return dragAndDropHooks;
}
