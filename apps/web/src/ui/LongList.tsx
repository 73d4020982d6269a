import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { useLayoutEffect, useRef, useState, type ReactNode } from 'react';

/** Up to so many rows are drawn whole: then they can be found on the page and printed. */
const WHOLE = 60;
/** Rows drawn beyond what is seen, so that Tab and scrolling never meet a gap. */
const BEYOND = 8;

interface LongListProps<Item> {
  readonly items: readonly Item[];
  readonly keyOf: (item: Item) => string;
  /** What a row is about as high as, in pixels; each is measured once it is drawn. */
  readonly rowHeight: number;
  readonly label: string;
  readonly children: (item: Item) => ReactNode;
}

/** A list that scrolls with the page; of a long one only the rows that are seen are drawn. */
export function LongList<Item>(props: LongListProps<Item>) {
  const { items, keyOf, label, children } = props;
  if (items.length > WHOLE) return <SeenRows {...props} />;
  return (
    <ul aria-label={label}>
      {items.map((item) => (
        <li key={keyOf(item)}>{children(item)}</li>
      ))}
    </ul>
  );
}

function SeenRows<Item>({ items, keyOf, rowHeight, label, children }: LongListProps<Item>) {
  const list = useRef<HTMLUListElement>(null);
  const [top, setTop] = useState(0);
  // What stands above may change its height, such as filters that wrap.
  useLayoutEffect(() => {
    const element = list.current;
    if (element !== null) setTop(Math.round(element.getBoundingClientRect().top + globalThis.scrollY));
  }, [items]);
  const rows = useWindowVirtualizer({
    count: items.length,
    estimateSize: () => rowHeight,
    getItemKey: (index) => keyOf(items[index] as Item),
    overscan: BEYOND,
    scrollMargin: top,
  });
  const seen = rows.getVirtualItems();
  const before = (seen[0]?.start ?? top) - top;
  const after = rows.getTotalSize() - ((seen.at(-1)?.end ?? top) - top);
  return (
    <ul ref={list} aria-label={label} style={{ paddingTop: before, paddingBottom: Math.max(0, after) }}>
      {seen.map(({ index, key }) => (
        <li key={String(key)} ref={rows.measureElement} data-index={index} aria-setsize={items.length} aria-posinset={index + 1}>
          {children(items[index] as Item)}
        </li>
      ))}
    </ul>
  );
}
