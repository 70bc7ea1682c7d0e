import {
  DndContext,
  type DragEndEvent,
  type DragMoveEvent,
  type DragStartEvent,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type Layer, layerTitle, moveInTree, Refusal, reorderLayer } from '@tolvik/core';
import { type KeyboardEvent, type MouseEvent, useEffect, useMemo, useRef, useState } from 'react';
import { planOf, useSession } from '../../project/context';
import type { Session } from '../../project/session';
import { useNotice } from '../../ui/notices';
import { act, isShownHere } from '../act';
import { openBenchMenu } from '../commands/menus';
import { shownEdition } from '../shown-edition';
import { LayerRowView, ROW_HEIGHT } from './LayerRowView';
import { layerRows } from './layer-rows';

/** What is unfolded stays so while the project is open. */
const unfolded = new WeakMap<Session, ReadonlySet<string>>();

/** The artwork tree, front first, with badges on layers that are pieces or bench-only. */
export function LayersPanel({ onReveal }: { onReveal(id: string): void }) {
  const session = useSession();
  const { doc, selection } = session;
  const tell = useNotice();
  const [query, setQuery] = useState('');
  const [open, setOpen] = useState<ReadonlySet<string>>(() => unfolded.get(session) ?? new Set());
  useEffect(() => void unfolded.set(session, open), [session, open]);
  const [renaming, setRenaming] = useState<string | null>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useMemo(() => layerRows(doc, open, query), [doc, doc.layerRevision, open, query]);
  const plan = planOf(session);
  /** Files of the slices of each layer. */
  const sliced = useMemo(() => {
    const layerOf = new Map(
      plan.pieces.flatMap(({ id, record }) =>
        record.kind === 'slice' && record.source.kind === 'layer' ? [[id, record.source.layerId] as const] : [],
      ),
    );
    const counts = new Map([...layerOf.values()].map((id) => [id, 0]));
    for (const { pieceId } of plan.files) {
      const id = layerOf.get(pieceId);
      if (id) counts.set(id, (counts.get(id) ?? 0) + 1);
    }
    return counts;
  }, [plan]);
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

  const set = (layers: readonly Layer[], fields: Partial<Layer>, label: string) =>
    session.commit({
      label: `${label} ${layers.length === 1 ? layerTitle(layers[0]) : `${layers.length} layers`}`,
      puts: layers.map((layer) => ({ ...layer, ...fields })),
      removes: [],
    });
  const edition = shownEdition(session);
  const isShown = (layer: Layer) => isShownHere(session, layer);
  const show = (layers: readonly Layer[], shown: boolean) =>
    act(
      session,
      'show',
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
  // Dragging: upper and lower edge of a row go beside it, its middle goes into it when it is a group.
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const [drop, setDrop] = useState<{ id: string; where: 'above' | 'below' | 'into' } | null>(null);
  const startDrag = ({ active }: DragStartEvent) => {
    if (!selection.has(String(active.id))) session.select([String(active.id)]);
  };
  const overRow = ({ activatorEvent, delta, over }: DragMoveEvent) => {
    const layer = over && doc.find('layer', String(over.id));
    if (!layer || !(activatorEvent instanceof PointerEvent)) return setDrop(null);
    const share = (activatorEvent.clientY + delta.y - over.rect.top) / over.rect.height;
    const group = layer.tag === 'g';
    setDrop({
      id: layer.id,
      where: share < (group ? 0.28 : 0.5) ? 'above' : share > (group ? 0.72 : 0.5) ? 'below' : 'into',
    });
  };
  const endDrag = (_: DragEndEvent) => {
    const target = drop && doc.find('layer', drop.id);
    setDrop(null);
    if (!target || selection.has(target.id)) return;
    const siblings = doc.children(target.parentId).filter((layer) => !selection.has(layer.id));
    const behind = siblings[siblings.findIndex((layer) => layer.id === target.id) - 1]?.id ?? null;
    // The list shows the front first, so above is in front.
    const [parent, inFrontOf] =
      drop.where === 'into'
        ? [target.id, doc.children(target.id).at(-1)?.id ?? null]
        : [target.parentId, drop.where === 'above' ? target.id : behind];
    try {
      const count =
        selection.size === 1 ? layerTitle(doc.find('layer', [...selection][0]) ?? target) : `${selection.size} layers`;
      session.commit({
        label: drop.where === 'into' ? `put ${count} into ${layerTitle(target)}` : `move ${count} in the tree`,
        puts: moveInTree(doc, selection, parent, inFrontOf),
        removes: [],
      });
      if (drop.where === 'into') fold(target.id, true);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      tell(`${error.message}.`, { bad: true });
    }
  };
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
  /** Out of its group, to the place in front of it; or into the group that lies next behind or in front of it. */
  const regroup = (layer: Layer, where: 'in' | 'out') => {
    const parent = doc.find('layer', layer.parentId);
    const siblings = doc.children(layer.parentId);
    const at = siblings.findIndex((each) => each.id === layer.id);
    const group = [siblings[at - 1], siblings[at + 1]].find((each) => each?.tag === 'g');
    if (where === 'out' && parent)
      session.commit({
        label: `take ${layerTitle(layer)} out of ${layerTitle(parent)}`,
        puts: moveInTree(doc, [layer.id], parent.parentId, parent.id),
        removes: [],
      });
    if (where === 'in' && group)
      session.commit({
        label: `put ${layerTitle(layer)} into ${layerTitle(group)}`,
        puts: moveInTree(doc, [layer.id], group.id, doc.children(group.id).at(-1)?.id ?? null),
        removes: [],
      });
  };
  const onKeys = (event: KeyboardEvent) => {
    if (event.target instanceof HTMLInputElement) return;
    const at = rows.findIndex((row) => selection.has(row.layer.id));
    const row = rows[at];
    const to = { ArrowDown: at + 1, ArrowUp: Math.max(0, at - 1), Home: 0, End: rows.length - 1 }[event.key];
    if (to !== undefined && rows[to] && !event.altKey) {
      session.select([rows[to].layer.id]);
      list.scrollToIndex(to);
    } else if (!row) return;
    else if (event.altKey && event.key === 'ArrowUp')
      session.commit({
        label: `bring ${layerTitle(row.layer)} forward`,
        puts: reorderLayer(doc, row.layer, 'forward'),
        removes: [],
      });
    else if (event.altKey && event.key === 'ArrowDown')
      session.commit({
        label: `send ${layerTitle(row.layer)} backward`,
        puts: reorderLayer(doc, row.layer, 'backward'),
        removes: [],
      });
    else if (event.altKey && event.key === 'ArrowLeft') regroup(row.layer, 'out');
    else if (event.altKey && event.key === 'ArrowRight') regroup(row.layer, 'in');
    else if (event.key === 'ArrowRight' && row.hasChildren) fold(row.layer.id, true);
    else if (event.key === 'ArrowLeft')
      row.open
        ? fold(row.layer.id, false)
        : doc.find('layer', row.layer.parentId) && session.select([row.layer.parentId]);
    else if (event.key === ' ') show(chosenWith(row.layer), !isShown(row.layer));
    else if (event.key === 'F2') setRenaming(row.layer.id);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

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
      <DndContext
        sensors={sensors}
        onDragStart={startDrag}
        onDragMove={overRow}
        onDragEnd={endDrag}
        onDragCancel={() => setDrop(null)}
        accessibility={{ screenReaderInstructions: { draggable: '' } }}
      >
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
                  drop={drop?.id === layer.id ? drop.where : null}
                  files={sliced.get(layer.id)}
                  override={edition?.overrides[layer.id]}
                  onPick={(event) => pick(event, index)}
                  onMenu={(event) =>
                    openBenchMenu(event, session, () => selection.has(layer.id) || session.select([layer.id]))
                  }
                  onFold={() => fold(layer.id, !row.open)}
                  onShow={() => show(chosenWith(layer), !isShown(layer))}
                  onRename={(name) => set([layer], { name: name.trim() }, 'rename')}
                  onRenaming={(on) => setRenaming(on ? layer.id : null)}
                />
              );
            })}
          </div>
        </div>
      </DndContext>
    </>
  );
}
