import {
  type AlignTo,
  type Alike,
  type Artboard,
  align,
  artboardToSlice,
  type Bounds,
  boundsOfLayers,
  type Change,
  centreArtwork,
  type Direction,
  distribute,
  type Edge,
  groupLayers,
  inOrder,
  type Layer,
  lastOrder,
  layersAlike,
  type Matrix,
  mirrorAbout,
  movedAsShown,
  newId,
  ordersAfter,
  outermost,
  type ProjectDocument,
  type ProjectRecord,
  pasteClip,
  referencePoint,
  renumbered,
  reorderLayer,
  rotateAbout,
  type Slice,
  scaleAbout,
  siblingsOf,
  sliceOfArtboards,
  sliceOfEverything,
  sliceRecord,
  sliceRegion,
  sliceToArtboard,
  stepAside,
  strokesKept,
  takeCopy,
  toPixelGrid,
  transformLayers,
  translate,
  trimToArtwork,
  ungroup,
  wholePixels,
  withOverrides,
} from '@tolvik/core';
import type { Session } from '../project/session';
import { count } from '../ui/words';
import { useBench } from './bench-state';
import { layerTitle } from './layers/layer-rows';
import { startingSpecs } from './plane/acts';
import { artworkOf, editedEdition, shapedLayers, shownNow } from './shown-artwork';
import { shownEdition } from './shown-edition';

/** What keys, buttons and commands do to what is selected. Each is one change; a `Refusal` says why not. */

export const selectedLayers = ({ doc, selection }: Session): Layer[] =>
  [...selection].flatMap((id) => doc.find('layer', id) ?? []);
export const selectedArtboards = ({ doc, selection }: Session): Artboard[] =>
  doc.list('artboard').filter((artboard) => selection.has(artboard.id));

/** "Kelp sprig", or "4 layers". */
export function nameOfSelection(session: Session): string {
  const layers = selectedLayers(session);
  if (layers.length === 1) return layerTitle(layers[0]);
  if (layers.length > 1) return count(layers.length, 'layer');
  const [id] = session.selection;
  const record = id ? session.doc.get(id) : undefined;
  return session.selection.size === 1 && record && 'name' in record
    ? record.name
    : count(session.selection.size, 'piece');
}

export function groupSelected(session: Session): void {
  const { change, groupId } = groupLayers(session.doc, session.selection);
  session.commit(change);
  session.select([groupId]);
}

export function ungroupSelected(session: Session): void {
  const { doc } = session;
  const groups = outermost(doc, session.selection).filter((layer) => layer.tag === 'g');
  const children = groups.flatMap((group) => doc.children(group.id).map((child) => child.id));
  const changes: Change[] = groups.map((group) => ungroup(doc, group.id));
  session.commit({
    label: changes.length === 1 ? changes[0].label : `ungroup ${changes.length} groups`,
    puts: changes.flatMap((change) => change.puts),
    removes: changes.flatMap((change) => change.removes),
  });
  session.select(children);
}

export function reorderSelected(session: Session, direction: Direction): void {
  const [layer] = selectedLayers(session);
  const words = { front: 'to the front', back: 'to the back', forward: 'forward', backward: 'backward' }[direction];
  if (layer)
    session.commit({
      label: `bring ${layerTitle(layer)} ${words}`,
      puts: reorderLayer(session.doc, layer, direction),
      removes: [],
    });
}

/** A copy beside the original: layers a little aside, artboards with what lies on them below all others. */
export function duplicateSelected(session: Session): void {
  const clip = takeCopy(session.doc, session.selection);
  if (!clip) return;
  const name = nameOfSelection(session);
  const { puts, selected } = pasteClip(session.doc, clip, [stepAside(session.doc, clip)]);
  session.commit({ label: `duplicate ${name}`, puts, removes: [] });
  session.select(selected);
}

const carried = () => useBench.getState().carry;

/** Shows or hides layers: in the base, or only in the edition that changes go to. */
export function showLayers(session: Session, layers: readonly Layer[], shown: boolean): void {
  const { doc } = session;
  const ids = layers.map((layer) => layer.id);
  const edition = editedEdition(session, ids);
  const verb = shown ? 'show' : 'hide';
  if (!edition) {
    const name = layers.length === 1 ? layerTitle(layers[0]) : count(layers.length, 'layer');
    return session.commit({
      label: `${verb} ${name}`,
      puts: layers.map((layer) => ({ ...layer, shown })),
      removes: [],
    });
  }
  session.commit({
    label: `${verb} in ${edition.name}`,
    puts: [withOverrides(doc, edition, ids, (before) => ({ ...before, shown }))],
    removes: [],
  });
}

/** Whether a layer is shown where one looks: in the edition that the Bench shows, or in the base. */
export const isShownHere = (session: Session, layer: Layer): boolean =>
  shownEdition(session)?.overrides[layer.id]?.shown ?? layer.shown;

/** Moves the selected, from where one sees them: in the base, or only in the edition that changes go to. */
function moveAsSeen(session: Session, label: string, move: (doc: ProjectDocument) => ProjectRecord[]): void {
  const { doc, selection } = session;
  const shown = shownNow(session);
  const seen = artworkOf(session, selection);
  const moved = move(seen);
  const layers = moved.filter((record) => record.kind === 'layer');
  const puts =
    shown && seen === shown.artwork
      ? movedAsShown(doc, shown.edition, shown.artwork, layers, !!editedEdition(session, selection))
      : moved;
  session.commit({ label, puts, removes: [] });
}

export const alignSelected = (session: Session, edge: Edge, to: AlignTo): void =>
  moveAsSeen(session, `align ${nameOfSelection(session)}: ${edge}`, (doc) =>
    align(doc, session.selection, edge, to, carried()),
  );

export const distributeSelected = (session: Session, axis: 'across' | 'down'): void =>
  moveAsSeen(session, `distribute ${nameOfSelection(session)} ${axis}`, (doc) =>
    distribute(doc, session.selection, axis, carried()),
  );

export const selectedToPixelGrid = (session: Session): void =>
  moveAsSeen(session, `${nameOfSelection(session)} to the pixel grid`, (doc) => toPixelGrid(doc, session.selection));

/** Moves the selected layers by dx, dy px: in the base, or only in the edition that changes go to. */
export const shiftSelected = (session: Session, dx: number, dy: number): void =>
  moveAsSeen(session, `move ${nameOfSelection(session)}`, (doc) =>
    transformLayers(doc, session.selection, translate(dx, dy)),
  );

/** The box of the selected layers where one sees them, with the point that numbers are told from. */
export function selectionFrame(session: Session): { box: Bounds; x: number; y: number } | null {
  const box = boundsOfLayers(artworkOf(session, session.selection), session.selection);
  return box && { box, ...referencePoint(box, useBench.getState().reference) };
}

/** Transforms the selected layers; `…` in the label is their name, `keepStrokes` is the factor of an even scaling after which strokes should look as before. */
export function transformSelected(session: Session, label: string, onPlane: Matrix, keepStrokes = 1): void {
  const made = shapedLayers(session, session.selection, onPlane);
  session.commit({
    label: label.replace('…', nameOfSelection(session)),
    puts: keepStrokes === 1 ? made : strokesKept(session.doc, made, keepStrokes),
    removes: [],
  });
}

export function mirrorSelected(session: Session, across: 'horizontally' | 'vertically'): void {
  const frame = selectionFrame(session);
  if (frame)
    transformSelected(
      session,
      `mirror … ${across}`,
      mirrorAbout((frame.box.minX + frame.box.maxX) / 2, (frame.box.minY + frame.box.maxY) / 2, across),
    );
}

export function turnSelected(session: Session, degrees: number): void {
  const frame = selectionFrame(session);
  if (frame && degrees % 360 !== 0)
    transformSelected(session, `turn … by ${degrees}°`, rotateAbout(frame.x, frame.y, degrees));
}

export function scaleSelected(session: Session, factor: number): void {
  const frame = selectionFrame(session);
  if (frame)
    transformSelected(
      session,
      'scale …',
      scaleAbout(frame.x, frame.y, factor, factor),
      useBench.getState().scaleStrokes ? 1 : factor,
    );
}

export const pickSiblings = (session: Session): void => session.select(siblingsOf(session.doc, session.selection));
export const pickAlike = (session: Session, by: Alike): void =>
  session.select(layersAlike(session.doc, session.selection, by));

/** One slice for each selected layer; it follows its layer. */
export function sliceEach(session: Session): void {
  const { doc } = session;
  const layers = selectedLayers(session);
  const orders = ordersAfter(lastOrder(doc.list('slice')), layers.length);
  const made = layers.map((layer, i) =>
    sliceRecord.parse({
      id: newId(),
      kind: 'slice',
      order: orders[i],
      name: layerTitle(layer),
      source: { kind: 'layer', layerId: layer.id },
      specIds: startingSpecs(doc),
    }),
  );
  session.commit({ label: `slices of ${nameOfSelection(session)}`, puts: made, removes: [] });
  session.select(made.map((slice) => slice.id));
}

function addSlice(session: Session, slice: Slice): void {
  session.commit({ label: `slice ${slice.name}`, puts: [slice], removes: [] });
  session.select([slice.id]);
}

export const pageOfArtboards = (session: Session): void =>
  addSlice(session, sliceOfArtboards(session.doc, selectedArtboards(session), startingSpecs(session.doc)));
export const everythingSliced = (session: Session): void =>
  addSlice(session, sliceOfEverything(session.doc, 'everything', startingSpecs(session.doc)));

/** Numbers the selected artboards, or else slices, anew: in the order of their names or of their places. Others keep theirs. */
export function numberSelected(session: Session, by: 'name' | 'place'): void {
  const { doc, selection } = session;
  const artboards = selectedArtboards(session);
  const slices = doc.list('slice').filter((slice) => selection.has(slice.id));
  const place = (slice: Slice) => {
    const region = sliceRegion(doc, slice);
    return typeof region === 'string' ? { x: 0, y: 0 } : region;
  };
  const sorted =
    by === 'name'
      ? [...slices].sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }))
      : [...slices].sort((a, b) => place(a).y - place(b).y || place(a).x - place(b).x);
  const puts =
    artboards.length > 0
      ? renumbered(doc.list('artboard'), inOrder(artboards, by))
      : renumbered(doc.list('slice'), sorted);
  session.commit({ label: `number ${nameOfSelection(session)} by ${by}`, puts, removes: [] });
}

/** Slices become artboards, artboards slices; each keeps its id, so it stays selected. */
export function convertSelected(session: Session): void {
  const { doc, selection } = session;
  const puts = [...selection].flatMap((id): ProjectRecord[] => {
    const slice = doc.find('slice', id);
    if (slice) return [sliceToArtboard(doc, slice)];
    const artboard = doc.find('artboard', id);
    return artboard ? [artboardToSlice(doc, artboard)] : [];
  });
  session.commit({ label: `convert ${nameOfSelection(session)}`, puts, removes: [] });
}

const FITS = {
  trim: {
    label: 'trim',
    change: trimToArtwork,
    nothing: 'Nothing to trim: the artboard fits its artwork, or there is none on it.',
  },
  centre: {
    label: 'centre artwork on',
    change: centreArtwork,
    nothing: 'The artwork is in the middle already, or there is none.',
  },
  whole: {
    label: 'whole pixels for',
    change: (_: ProjectDocument, artboards: readonly Artboard[]) => wholePixels(artboards),
    nothing: 'All are on whole pixels.',
  },
} satisfies Record<
  string,
  {
    label: string;
    change: (doc: ProjectDocument, artboards: readonly Artboard[], marginPx: number) => ProjectRecord[];
    nothing: string;
  }
>;

/** The selected artboards that follow no other one are fitted to their artwork or it to them; what to say when nothing changes. */
export function fitSelected(session: Session, how: keyof typeof FITS, marginPx = 0): string | null {
  const artboards = selectedArtboards(session).filter((artboard) => how === 'whole' || !artboard.follows);
  const { label, change, nothing } = FITS[how];
  const puts = change(session.doc, artboards, marginPx);
  if (puts.length === 0) return nothing;
  session.commit({
    label: `${label} ${artboards.length === 1 ? artboards[0].name : count(artboards.length, 'artboard')}`,
    puts,
    removes: [],
  });
  return null;
}
