import { useVirtualizer } from '@tanstack/react-virtual';
import type { Piece, RenamePreview } from '@tolvik/core';
import { type ClipboardEvent, type KeyboardEvent, useRef } from 'react';
import { linesOfNames } from './lines-of-names';
import { NameRow, ROW_PX } from './NameRow';

type Props = {
  pieces: readonly Piece[];
  /** What stands in each field, and what the rule makes of it. */
  typed: readonly string[];
  preview: readonly RenamePreview[];
  onType(at: number, name: string): void;
  /** A list was pasted into the field of one row. */
  onList(at: number, names: readonly string[]): void;
  /** Enter with Ctrl, anywhere. */
  onDone(): void;
  /** The hand went on from the last row. */
  onEnd(): void;
};

/** A row for each piece: Enter, Tab and the arrows go from name to name, and a list is pasted down the rows. */
export function NamesTable({ pieces, typed, preview, onType, onList, onDone, onEnd }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: pieces.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    overscan: 12,
  });
  const goTo = (at: number) => {
    if (at < 0) return;
    if (at >= pieces.length) return onEnd();
    rows.scrollToIndex(at);
    const focus = () => {
      const field = scroller.current?.querySelector<HTMLInputElement>(`[data-row="${at}"] input`);
      field?.focus();
      return field;
    };
    if (!focus()) requestAnimationFrame(focus);
  };
  const onKeys = (event: KeyboardEvent<HTMLInputElement>, at: number) => {
    const { key, shiftKey, ctrlKey, metaKey } = event;
    const by = shiftKey ? -1 : 1;
    const isInside = at + by >= 0 && at + by < pieces.length;
    if (key === 'Enter' && (ctrlKey || metaKey)) onDone();
    else if (key === 'Enter' || (key === 'Tab' && isInside)) goTo(at + by);
    else if (key === 'ArrowDown') goTo(at + 1);
    else if (key === 'ArrowUp') goTo(at - 1);
    else return;
    event.preventDefault();
  };
  const onPaste = (event: ClipboardEvent, at: number) => {
    const names = linesOfNames(event.clipboardData.getData('text/plain'));
    if (names.length < 2) return;
    event.preventDefault();
    onList(at, names);
    goTo(Math.min(at + names.length, pieces.length));
  };
  return (
    <div ref={scroller} className="h-[min(46vh,430px)] overflow-y-auto border border-line bg-white">
      <ul className="relative" aria-label="Pieces and their names" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map(({ index, start, key }) => (
          <NameRow
            key={key}
            index={index}
            top={start}
            piece={pieces[index]}
            typed={typed[index]}
            {...preview[index]}
            onType={(name) => onType(index, name)}
            onKeys={(event) => onKeys(event, index)}
            onPaste={(event) => onPaste(event, index)}
          />
        ))}
      </ul>
    </div>
  );
}
