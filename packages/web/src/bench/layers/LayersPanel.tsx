import { DndContext } from '@dnd-kit/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { acts, type Layer } from '@tolvik/core';
import { type MouseEvent, useEffect, useMemo, useRef, useState } from 'react';
import { useSession } from '../../project/session/context';
import type { Session } from '../../project/session/session';
import { act, isShownHere } from '../act';
import { openBenchMenu } from '../commands/menus';
import { shownEdition } from '../shown-edition';
import { LayerRowView, ROW_HEIGHT } from './LayerRowView';
import { layerKeys } from './layer-keys';
import { layerRows } from './layer-rows';
import { useLayerDrag } from './use-layer-drag';
import { useSlicedFiles } from './use-sliced-files';

/** What is unfolded stays so while the project is open. */
const unfolded = new WeakMap<Session, ReadonlySet<string>>();

/** The artwork tree, front first, with badges on layers that are pieces or bench-only. */
export function LayersPanel({ onReveal }: { onReveal(id: string): void }) {
  const session = useSession();
  const { doc, selection } = session;
  const [query, setQuery] = useState('');
  const [open, setOpen] = useState<ReadonlySet<string>>(() => unfolded.get(session) ?? new Set());
  useEffect(() => void unfolded.set(session, open), [session, open]);
  const [renaming, setRenaming] = useState<string | null>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useMemo(() => layerRows(doc, open, query), [doc, doc.layerRevision, open, query]);
  const sliced = useSlicedFiles();
  const list = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
  });

  // What was picked on the plane is unfolded here.
  useEffect(() => {
    const parents = new Set<string>();
    for (const id of selection)
      for (const at of doc.ancestors({ parentId: doc.find('layer', id)?.parentId ?? '' })) parents.add(at.id);
    setOpen((before) => ([...parents].every((id) => before.has(id)) ? before : new Set([...before, ...parents])));
  }, [selection, doc]);

  const edition = shownEdition(session);
  const isShown = (layer: Layer) => isShownHere(session, layer);
  const show = (layers: readonly Layer[], shown: boolean) =>
    act(
      session,
      acts.show,
      { shown },
      layers.map((layer) => layer.id),
    );
  const chosenWith = (layer: Layer) =>
    selection.has(layer.id) ? [...selection].flatMap((id) => doc.find('layer', id) ?? []) : [layer];
  const fold = (id: string, unfold: boolean) =>
    setOpen((before) => {
      const next = new Set(before);
      unfold ? next.add(id) : next.delete(id);
      return next;
    });
  const dragging = useLayerDrag((id) => fold(id, true));
  const pick = (event: MouseEvent, index: number) => {
    const { id } = rows[index].layer;
    if (event.shiftKey && selection.size > 0) {
      const anchor = rows.findIndex((row) => selection.has(row.layer.id));
      session.select(
        rows.slice(Math.min(Math.max(0, anchor), index), Math.max(anchor, index) + 1).map((row) => row.layer.id),
      );
    } else if (event.ctrlKey || event.metaKey) {
      const next = new Set(selection);
      if (!next.delete(id)) next.add(id);
      session.select(next);
    } else {
      session.select([id]);
      onReveal(id);
    }
  };
  const renameNext = (index: number, by: 1 | -1) => {
    const next = rows[index + by]?.layer;
    setRenaming(next?.id ?? null);
    if (!next) return;
    session.select([next.id]);
    list.scrollToIndex(index + by);
  };
  const onKeys = layerKeys({
    session,
    rows,
    fold,
    rename: setRenaming,
    show: (layer) => show(chosenWith(layer), !isShown(layer)),
    goTo(index) {
      session.select([rows[index].layer.id]);
      list.scrollToIndex(index);
    },
  });

  return (
    <>
      <div className="px-3.5 py-2">
        <input
          type="search"
          className="field w-full"
          placeholder="Find a layer"
          aria-label="Find layers by name"
          value={query}
          onChange={(event) => setQuery(event.target.value)}
        />
      </div>
      <DndContext {...dragging.context} accessibility={{ screenReaderInstructions: { draggable: '' } }}>
        <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto">
          {rows.length === 0 && (
            <p className="px-3.5 py-2 text-ink-3">{query ? `No layer matches “${query}”.` : 'No artwork yet.'}</p>
          )}
          <div
            role="treegrid"
            aria-label="Layers"
            aria-multiselectable
            tabIndex={rows.length > 0 ? 0 : -1}
            onKeyDown={onKeys}
            className="relative focus-visible:-outline-offset-2"
            style={{ height: list.getTotalSize() }}
          >
            {list.getVirtualItems().map(({ index, start, key }) => {
              const row = rows[index];
              const { layer } = row;
              return (
                <LayerRowView
                  key={key}
                  row={row}
                  top={start}
                  selected={selection.has(layer.id)}
                  shown={isShown(layer)}
                  renaming={renaming === layer.id}
                  drop={dragging.dropAt(layer.id)}
                  files={sliced.get(layer.id)}
                  override={edition?.overrides[layer.id]}
                  onPick={(event) => pick(event, index)}
                  onMenu={(event) =>
                    openBenchMenu(event, session, () => selection.has(layer.id) || session.select([layer.id]))
                  }
                  onFold={() => fold(layer.id, !row.open)}
                  onShow={() => show(chosenWith(layer), !isShown(layer))}
                  onRename={(name) => act(session, acts.renameLayer, { name }, [layer.id])}
                  onRenaming={(on) => setRenaming(on ? layer.id : null)}
                  onRenameNext={(by) => renameNext(index, by)}
                />
              );
            })}
          </div>
        </div>
      </DndContext>
    </>
  );
}
