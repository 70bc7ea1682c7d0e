import { useVirtualizer } from '@tanstack/react-virtual';
import { acts, pickPieces } from '@tolvik/core';
import { type KeyboardEvent, type MouseEvent, useMemo, useRef, useState } from 'react';
import { useFindings, worst } from '../../project/findings/findings';
import { planOf, useSession } from '../../project/session/context';
import { act } from '../act';
import { useBench } from '../bench-state';
import { openBenchMenu } from '../commands/menus';
import { PieceRow } from './PieceRow';

/** The index of what becomes files. */
export function PiecesPanel({ onReveal }: { onReveal(id: string): void }) {
  const session = useSession();
  const plan = planOf(session);
  const [query, setQuery] = useState('');
  const [renaming, setRenaming] = useState<string | null>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const shown = useMemo(() => pickPieces(plan.pieces, query), [plan, query]);
  const { byPiece } = useFindings();
  const files = useMemo(() => {
    const counts = new Map<string, number>();
    for (const { pieceId } of plan.files) counts.set(pieceId, (counts.get(pieceId) ?? 0) + 1);
    return counts;
  }, [plan]);
  const rows = useVirtualizer({
    count: shown.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 44,
    overscan: 8,
  });

  const pick = (event: MouseEvent | KeyboardEvent, index: number) => {
    const piece = shown[index];
    if (!piece) return;
    if (event.shiftKey && session.selection.size > 0) {
      const anchor = shown.findIndex((each) => session.selection.has(each.id));
      const [from, to] = [Math.min(anchor, index), Math.max(anchor, index)];
      session.select(anchor < 0 ? [piece.id] : shown.slice(from, to + 1).map((each) => each.id));
    } else if (event.ctrlKey || event.metaKey) {
      const next = new Set(session.selection);
      if (!next.delete(piece.id)) next.add(piece.id);
      session.select(next);
    } else {
      session.select([piece.id]);
      onReveal(piece.id);
    }
  };
  const onKeys = (event: KeyboardEvent) => {
    if (event.target instanceof HTMLInputElement) return;
    const at = shown.findIndex((piece) => session.selection.has(piece.id));
    const to = { ArrowDown: at + 1, ArrowUp: Math.max(0, at - 1), Home: 0, End: shown.length - 1 }[event.key];
    if (to !== undefined && to < shown.length) {
      event.preventDefault();
      session.select([shown[to].id]);
      onReveal(shown[to].id);
      rows.scrollToIndex(to);
    } else if (event.key === 'F2' && at >= 0) {
      event.preventDefault();
      event.stopPropagation();
      if (shown.filter(({ id }) => session.selection.has(id)).length > 1) useBench.getState().set({ sheet: 'rename' });
      else setRenaming(shown[at].id);
    } else if (event.key === ' ' && at >= 0) {
      event.preventDefault();
      act(session, acts.switchPieces, { on: !shown[at].on });
    }
  };
  const renameNext = (index: number, by: 1 | -1) => {
    const next = shown[index + by];
    setRenaming(next?.id ?? null);
    if (!next) return;
    session.select([next.id]);
    onReveal(next.id);
    rows.scrollToIndex(index + by);
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="px-3.5 py-2">
        <input
          type="search"
          className="field w-full"
          placeholder="Find, or pick 3-9, 12"
          aria-label="Find pieces by name, or pick them by number"
          value={query}
          onChange={(event) => setQuery(event.target.value)}
          onKeyDown={(event) => event.key === 'Enter' && session.select(shown.map((piece) => piece.id))}
        />
      </div>
      <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto">
        {shown.length === 0 && (
          <p className="px-3.5 py-2 text-ink-3">{query ? `No piece matches “${query}”.` : 'No pieces yet.'}</p>
        )}
        <div
          role="grid"
          aria-label="Pieces"
          aria-multiselectable
          tabIndex={shown.length > 0 ? 0 : -1}
          onContextMenu={(event) => openBenchMenu(event, session)}
          onKeyDown={onKeys}
          className="relative focus-visible:-outline-offset-2"
          style={{ height: rows.getTotalSize() }}
        >
          {rows.getVirtualItems().map(({ index, start, key }) => {
            const piece = shown[index];
            return (
              <PieceRow
                key={key}
                piece={piece}
                top={start}
                files={files.get(piece.id) ?? 0}
                trouble={worst(byPiece.get(piece.id))}
                renaming={renaming === piece.id}
                onPick={(event) => pick(event, index)}
                onRenaming={(on) => setRenaming(on ? piece.id : null)}
                onRenameNext={(by) => renameNext(index, by)}
              />
            );
          })}
        </div>
      </div>
    </div>
  );
}
