import { useVirtualizer } from '@tanstack/react-virtual';
import { type ReactNode, type Ref, type RefObject, useEffect, useImperativeHandle, useRef, useState } from 'react';

export type RowsHandle = { scrollTo(index: number): void };

type Props = {
  scroller: HTMLDivElement | null;
  /** The element that holds the rows, for telling where a pointer is among them. */
  group: RefObject<HTMLDivElement | null>;
  count: number;
  rowHeight: number;
  headerHeight: number;
  /** Draws a row at a distance from the first; with its pictures, or only what it says. */
  row(index: number, top: number, pictured: boolean): ReactNode;
  ref: Ref<RowsHandle>;
};

/** The rows in view and a few around them. Scrolling draws this again and nothing around it. */
export function MatrixRows({ scroller, group, count, rowHeight, headerHeight, row, ref }: Props) {
  // First what is in view; a moment later also what is around it.
  const [overscan, setOverscan] = useState(0);
  useEffect(() => {
    const later = setTimeout(() => setOverscan(6), 1500);
    return () => clearTimeout(later);
  }, []);
  const rows = useVirtualizer({
    count,
    getScrollElement: () => scroller,
    estimateSize: () => rowHeight,
    overscan,
    scrollPaddingStart: headerHeight,
  });
  useImperativeHandle(ref, () => ({ scrollTo: (index) => rows.scrollToIndex(index) }), [rows]);
  // While one scrolls, rows that come up wait with their pictures; those around what one sees have theirs already.
  const pictured = useRef<ReadonlySet<unknown>>(new Set());
  if (!rows.isScrolling) pictured.current = new Set(rows.getVirtualItems().map(({ key }) => key));
  return (
    <div ref={group} role="rowgroup" className="relative" style={{ height: rows.getTotalSize() }}>
      {rows.getVirtualItems().map(({ index, start, key }) => row(index, start, pictured.current.has(key)))}
    </div>
  );
}
