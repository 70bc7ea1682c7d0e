import {
  type DndContextProps,
  type DragEndEvent,
  type DragMoveEvent,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { acts, type Piece } from '@tolvik/core';
import { type RefObject, useRef, useState } from 'react';
import { doAct, plainIntent } from '../../project/session/act';
import { useSession } from '../../project/session/context';

type Side = 'before' | 'after';

/**
 * Dragging rows by their heads, to another place in the order of the project. All are as high as one another, in CSS
 * px, so where a row would land is told by the pointer alone. `group` is the element that holds the rows.
 */
export function useRowDrag(
  pieces: readonly Piece[],
  rowHeight: number,
): { context: DndContextProps; group: RefObject<HTMLDivElement | null>; dropAt(id: string): Side | null } {
  const session = useSession();
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const rowGroup = useRef<HTMLDivElement>(null);
  const [drop, setDrop] = useState<{ id: string; side: Side } | null>(null);
  const overRow = ({ active: dragged, activatorEvent, delta }: DragMoveEvent) => {
    if (!(activatorEvent instanceof PointerEvent) || !rowGroup.current) return;
    const at = (activatorEvent.clientY + delta.y - rowGroup.current.getBoundingClientRect().top) / rowHeight;
    const over = pieces[Math.floor(at)];
    setDrop(over && over.id !== dragged.id ? { id: over.id, side: at % 1 < 0.5 ? 'before' : 'after' } : null);
  };
  const endDrag = ({ active: dragged }: DragEndEvent) => {
    const moved = pieces.find((piece) => piece.id === dragged.id);
    setDrop(null);
    if (!moved || !drop) return;
    doAct(session, acts.moveInOrder, plainIntent([moved.id]), { beside: drop.id, side: drop.side });
  };
  return {
    context: { sensors, onDragMove: overRow, onDragEnd: endDrag, onDragCancel: () => setDrop(null) },
    group: rowGroup,
    dropAt: (id) => (drop?.id === id ? drop.side : null),
  };
}
