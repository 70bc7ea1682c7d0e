import {
  type DndContextProps,
  type DragMoveEvent,
  type DragStartEvent,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { acts } from '@tolvik/core';
import { useState } from 'react';
import { useSession } from '../../project/session/context';
import { act } from '../act';

type Drop = { id: string; where: 'above' | 'below' | 'into' };

/** Of the height of a row, what lies above it and below it; the middle of a group goes into it. */
const EDGE_OF_GROUP = 0.28;

/** Dragging rows of the tree: beside another row, or into a group, which is unfolded then. */
export function useLayerDrag(unfold: (id: string) => void): {
  context: DndContextProps;
  dropAt(id: string): Drop['where'] | null;
} {
  const session = useSession();
  const { doc, selection } = session;
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const [drop, setDrop] = useState<Drop | null>(null);
  const startDrag = ({ active }: DragStartEvent) => {
    if (!selection.has(String(active.id))) session.select([String(active.id)]);
  };
  const overRow = ({ activatorEvent, delta, over }: DragMoveEvent) => {
    const layer = over && doc.find('layer', String(over.id));
    if (!layer || !(activatorEvent instanceof PointerEvent)) return setDrop(null);
    const share = (activatorEvent.clientY + delta.y - over.rect.top) / over.rect.height;
    const edge = layer.tag === 'g' ? EDGE_OF_GROUP : 0.5;
    setDrop({
      id: layer.id,
      where: share < edge ? 'above' : share > 1 - edge ? 'below' : 'into',
    });
  };
  const endDrag = () => {
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
    if (act(session, acts.moveInTree, { into: parent, inFrontOf }) && drop.where === 'into') unfold(target.id);
  };
  return {
    context: {
      sensors,
      onDragStart: startDrag,
      onDragMove: overRow,
      onDragEnd: endDrag,
      onDragCancel: () => setDrop(null),
    },
    dropAt: (id) => (drop?.id === id ? drop.where : null),
  };
}
