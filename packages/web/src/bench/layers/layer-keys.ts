import { acts, type Layer } from '@tolvik/core';
import type { KeyboardEvent } from 'react';
import type { Session } from '../../project/session/session';
import { act } from '../act';
import type { LayerRow } from './layer-rows';

type Host = {
  session: Session;
  rows: readonly LayerRow[];
  fold(id: string, unfold: boolean): void;
  rename(id: string): void;
  /** Shows or hides it and what is selected with it. */
  show(layer: Layer): void;
  /** Selects the layer of that row and brings it into view. */
  goTo(index: number): void;
};

/** Out of its group, to the place in front of it; or into the group that lies next behind or in front of it. */
function regroup(session: Session, layer: Layer, where: 'in' | 'out'): void {
  const { doc } = session;
  const parent = doc.find('layer', layer.parentId);
  const siblings = doc.children(layer.parentId);
  const at = siblings.findIndex((each) => each.id === layer.id);
  const group = [siblings[at - 1], siblings[at + 1]].find((each) => each?.tag === 'g');
  if (where === 'out' && parent)
    act(session, acts.moveInTree, { into: parent.parentId, inFrontOf: parent.id }, [layer.id]);
  if (where === 'in' && group)
    act(session, acts.moveInTree, { into: group.id, inFrontOf: doc.children(group.id).at(-1)?.id ?? null }, [layer.id]);
}

/** What keys do in the tree (the pattern of a treegrid, ARIA 1.2), and Alt with arrows moves in it. */
export function layerKeys({ session, rows, fold, rename, show, goTo }: Host): (event: KeyboardEvent) => void {
  const { doc, selection } = session;
  return (event: KeyboardEvent) => {
    if (event.target instanceof HTMLInputElement) return;
    const at = rows.findIndex((row) => selection.has(row.layer.id));
    const row = rows[at];
    const to = { ArrowDown: at + 1, ArrowUp: Math.max(0, at - 1), Home: 0, End: rows.length - 1 }[event.key];
    if (to !== undefined && rows[to] && !event.altKey) {
      goTo(to);
    } else if (!row) return;
    else if (event.altKey && event.key === 'ArrowUp') act(session, acts.reorder, { to: 'forward' }, [row.layer.id]);
    else if (event.altKey && event.key === 'ArrowDown') act(session, acts.reorder, { to: 'backward' }, [row.layer.id]);
    else if (event.altKey && event.key === 'ArrowLeft') regroup(session, row.layer, 'out');
    else if (event.altKey && event.key === 'ArrowRight') regroup(session, row.layer, 'in');
    else if (event.key === 'ArrowRight' && row.hasChildren) fold(row.layer.id, true);
    else if (event.key === 'ArrowLeft')
      row.open
        ? fold(row.layer.id, false)
        : doc.find('layer', row.layer.parentId) && session.select([row.layer.parentId]);
    else if (event.key === ' ') show(row.layer);
    else if (event.key === 'F2') rename(row.layer.id);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
}
