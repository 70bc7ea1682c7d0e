import { count } from '../../basics/words';
import type { ProjectDocument } from '../../document/document';
import type { Artboard, Layer, Slice } from '../../document/records';
import { layerTitle } from '../../document/titles';
import { type PieceRecord, pieceRecord } from '../../pieces/pieces';

type Ids = Iterable<string>;

/** The layers among these ids, in their order. */
export const chosenLayers = (doc: ProjectDocument, ids: Ids): Layer[] =>
  [...ids].flatMap((id) => doc.find('layer', id) ?? []);

/** The artboards among these ids, in the project's order. */
export function chosenArtboards(doc: ProjectDocument, ids: Ids): Artboard[] {
  const chosen = new Set(ids);
  return doc.list('artboard').filter(({ id }) => chosen.has(id));
}

/** The slices among these ids, in the project's order. */
export function chosenSlices(doc: ProjectDocument, ids: Ids): Slice[] {
  const chosen = new Set(ids);
  return doc.list('slice').filter(({ id }) => chosen.has(id));
}

/** Artboards, slices and editions among these ids, in the order of the ids. */
export const chosenPieces = (doc: ProjectDocument, ids: Ids): PieceRecord[] =>
  [...ids].flatMap((id) => pieceRecord(doc, id) ?? []);

/** What is selected in a label: "Kelp sprig", "4 layers", "3 pieces". */
export function nameOfChosen(doc: ProjectDocument, ids: Ids): string {
  const all = [...ids];
  const layers = chosenLayers(doc, all);
  if (layers.length > 0) return layers.length === 1 ? layerTitle(layers[0]) : count(layers.length, 'layer');
  const pieces = chosenPieces(doc, all);
  return pieces.length === 1 ? pieces[0].name : count(all.length, 'piece');
}

/** Pieces in a label: "boat", "3 pieces". */
export const nameOfPieces = (records: readonly { name: string }[]): string =>
  records.length === 1 ? records[0].name : count(records.length, 'piece');
