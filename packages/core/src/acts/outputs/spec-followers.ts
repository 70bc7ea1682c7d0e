import type { ProjectDocument } from '../../document/document';
import type { Artboard, Edition, Slice } from '../../document/records';
import { chosenPieces } from '../doing/chosen';
import { outputsOfSpec } from './output-of';

/** Records that become files, and so follow specs. */
export type Follower = Artboard | Slice | Edition;

export const allFollowers = (doc: ProjectDocument): Follower[] => [
  ...doc.list('artboard'),
  ...doc.list('slice'),
  ...doc.list('edition'),
];

/** Who a spec is given to or taken from: the selected pieces, or all when none is selected. */
export function meantBy(doc: ProjectDocument, selection: ReadonlySet<string>): Follower[] {
  const chosen = chosenPieces(doc, selection);
  return chosen.length > 0 ? chosen : allFollowers(doc);
}

/**
 * Pieces that follow one spec in place of another, where they did. What they leave out of the other goes with it.
 * Each is a new record; those that did not follow the one are not among them.
 */
export function swapped<Piece extends Follower>(
  doc: ProjectDocument,
  pieces: readonly Piece[],
  fromId: string,
  toId: string,
): Piece[] {
  const gone = new Set(outputsOfSpec(doc, fromId).map(({ id }) => id));
  return pieces
    .filter(({ specIds }) => specIds.includes(fromId))
    .map((piece) => ({
      ...piece,
      specIds: [...new Set(piece.specIds.map((id) => (id === fromId ? toId : id)))],
      offOutputIds: piece.offOutputIds.filter((id) => !gone.has(id)),
    }));
}
