import {
  type Artboard,
  artboardRecord,
  lastOrder,
  moveArtboards,
  moveLayers,
  newId,
  ordersAfter,
  outermost,
  type ProjectDocument,
  type ProjectRecord,
  type Region,
  resizeArtboard,
  sliceRecord,
  withOverrides,
} from '@tolvik/core';
import type { Session } from '../../project/session';
import { useBench } from '../bench-state';
import { editedEdition } from '../shown-artwork';

/** What gestures and keys do to the document, each as one change that can be undone. */

const nameOf = (doc: ProjectDocument, id: string) => {
  const record = doc.get(id);
  return record && 'name' in record && record.name ? record.name : 'a layer';
};

/** Moves what is selected by dx, dy px, with what lies on it when artwork is carried. */
export function moveSelected(session: Session, dx: number, dy: number): void {
  const { doc, selection } = session;
  const artboards = [...selection].flatMap((id) => doc.find('artboard', id) ?? []);
  const puts: ProjectRecord[] = moveArtboards(doc, artboards, dx, dy, useBench.getState().carry);
  const carried = new Set(puts.map((record) => record.id));
  const layers = outermost(doc, selection).filter((layer) => !layer.locked && !carried.has(layer.id));
  const ids = layers.map((layer) => layer.id);
  const edition = editedEdition(session, ids);
  if (edition && layers.length > 0) {
    puts.push(
      withOverrides(doc, edition, ids, (before) => ({
        ...before,
        offset: { x: (before.offset?.x ?? 0) + dx, y: (before.offset?.y ?? 0) + dy },
      })),
    );
  } else for (const layer of moveLayers(doc, selection, dx, dy)) if (!carried.has(layer.id)) puts.push(layer);
  for (const id of selection) {
    const slice = doc.find('slice', id);
    if (slice?.source.kind === 'region')
      puts.push({ ...slice, source: { ...slice.source, x: slice.source.x + dx, y: slice.source.y + dy } });
  }
  const [only] = selection;
  session.commit({ label: `move ${selection.size === 1 ? nameOf(doc, only) : selection.size}`, puts, removes: [] });
}

/** Gives an artboard or a drawn slice another rectangle; layers that hold to the artboard's edges go along. */
export function setRect(session: Session, id: string, rect: Region, label: string): void {
  const { doc } = session;
  const artboard = doc.find('artboard', id);
  if (artboard)
    return session.commit({
      label: `${label} ${artboard.name}`,
      puts: resizeArtboard(doc, artboard, rect),
      removes: [],
    });
  const slice = doc.find('slice', id);
  if (slice)
    session.commit({
      label: `${label} ${slice.name}`,
      puts: [{ ...slice, source: { kind: 'region', ...rect } }],
      removes: [],
    });
}

/** The spec that new pieces follow. */
export function startingSpecs(doc: ProjectDocument): string[] {
  const { defaultSpecId } = doc.settings;
  const id = defaultSpecId && doc.find('spec', defaultSpecId) ? defaultSpecId : doc.list('spec')[0]?.id;
  return id ? [id] : [];
}

/** A drawn artboard or slice; its name is ready to be typed over. */
export function drawPiece(session: Session, what: 'artboard' | 'slice', rect: Region): void {
  const { doc } = session;
  const list = doc.list(what);
  const [order] = ordersAfter(lastOrder(list), 1);
  const base = { id: newId(), order, name: freshName(what, list), specIds: startingSpecs(doc) };
  const record: ProjectRecord =
    what === 'artboard'
      ? (artboardRecord.parse({ ...base, kind: 'artboard', ...rect }) as Artboard)
      : sliceRecord.parse({ ...base, kind: 'slice', source: { kind: 'region', ...rect } });
  session.commit({ label: `draw ${what}`, puts: [record], removes: [] });
  session.select([record.id]);
  useBench.getState().set({ tool: 'select', renaming: record.id });
}

/** "artboard 4": the lowest number that no other has. */
function freshName(what: string, list: readonly { name: string }[]): string {
  const taken = new Set(list.map(({ name }) => name));
  let n = list.length + 1;
  while (taken.has(`${what} ${n}`)) n++;
  return `${what} ${n}`;
}
