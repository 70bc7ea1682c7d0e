import { useVirtualizer } from '@tanstack/react-virtual';
import { type Piece, pickPieces, pieceRecord } from '@tolvik/core';
import { type KeyboardEvent, type MouseEvent, useMemo, useRef, useState } from 'react';
import { PieceThumb } from '../painter/PieceThumb';
import { planOf, useSession } from '../project/context';
import { useFindings, worst } from '../project/findings';
import { Shortened } from '../ui/Shortened';
import { TextField } from '../ui/TextField';
import { Tick } from '../ui/Tick';
import { count, plain } from '../ui/words';
import { openBenchMenu } from './commands/menus';
import { renamePiece } from './rename';

/** What a row says below the name. */
export function pieceNote(piece: Piece): string {
  const { region, record, problem } = piece;
  if (problem) return problem;
  const size = `${plain(region.width)} × ${plain(region.height)}`;
  if (record.kind === 'edition') return `edition, ${count(Object.keys(record.overrides).length, 'difference')}`;
  if (record.kind === 'artboard') return record.follows ? `follows, ${size}` : size;
  const from = {
    region: 'slice',
    layer: 'slice of a layer',
    artboards: 'slice of artboards',
    everything: 'slice of everything',
  }[record.source.kind];
  return `${from}, ${size}`;
}

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
      setRenaming(shown[at].id);
    } else if (event.key === ' ' && at >= 0) {
      event.preventDefault();
      switchOn([...session.selection], !shown[at].on);
    }
  };
  const switchOn = (ids: readonly string[], on: boolean) => {
    const puts = ids.flatMap((id) => pieceRecord(session.doc, id) ?? []).map((record) => ({ ...record, on }));
    session.commit({
      label: `${on ? 'switch on' : 'switch off'} ${puts.length === 1 ? puts[0].name : `${puts.length} pieces`}`,
      puts,
      removes: [],
    });
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
            const selected = session.selection.has(piece.id);
            const bad = worst(byPiece.get(piece.id));
            return (
              <div
                key={key}
                role="row"
                aria-selected={selected}
                onClick={(event) => pick(event, index)}
                onContextMenu={(event) => {
                  event.stopPropagation();
                  openBenchMenu(event, session, () => selected || session.select([piece.id]));
                }}
                onDoubleClick={() => setRenaming(piece.id)}
                className={`absolute inset-x-0 flex h-11 cursor-default items-center gap-2 pr-3.5 ${piece.kind === 'edition' ? 'pl-7' : 'pl-3.5'} ${selected ? 'bg-spruce-pale' : 'hover:bg-rail'}`}
                style={{ top: start }}
              >
                <span role="gridcell" className="inline-flex">
                  <Tick
                    checked={piece.on}
                    onChange={(on) => switchOn(selected ? [...session.selection] : [piece.id], on)}
                    label={`${piece.name} becomes files`}
                  />
                </span>
                <span role="gridcell" className="w-5 text-right font-mono text-[11.5px] text-ink-3">
                  {String(piece.number).padStart(2, '0')}
                </span>
                <PieceThumb pieceId={piece.id} side={32} dashed={piece.kind === 'slice'} />
                <span role="gridcell" className="min-w-0 flex-1 leading-[1.25]">
                  {renaming === piece.id ? (
                    <TextField
                      label={`Name of ${piece.name}`}
                      autoFocus
                      required
                      value={piece.name}
                      onChange={(name) => renamePiece(session, piece.id, name)}
                      onDone={() => setRenaming(null)}
                    />
                  ) : (
                    <>
                      <Shortened text={piece.name} className={`font-semibold ${piece.on ? '' : 'text-ink-3'}`} />
                      <span
                        className={`block truncate text-note ${bad ? (bad.severity === 'error' ? 'text-bad' : 'text-warn') : piece.kind === 'edition' ? 'text-ochre' : 'text-ink-3'}`}
                      >
                        {bad ? `! ${bad.message}` : pieceNote(piece)}
                      </span>
                    </>
                  )}
                </span>
                <span role="gridcell" className="font-mono text-[11.5px] text-ink-2">
                  {piece.on ? (files.get(piece.id) ?? 0) : 'off'}
                </span>
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}
