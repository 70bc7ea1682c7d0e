import { boundsOfLayers, transformLayers } from '../../arrange/transform';
import { refuse } from '../../basics/problem';
import type { ProjectDocument } from '../../document/document';
import type { Edition, Layer, ProjectRecord } from '../../document/records';
import { movedAsShown, shapedAsShown } from '../../editions/shown-artwork';
import type { Matrix } from '../../geometry/matrix';
import type { Intent, ShownEdition } from '../act';

/**
 * The document in which layers lie where one sees them: that of the edition that is shown, when all of them are on it,
 * else the project's own.
 */
export function seenArtwork(doc: ProjectDocument, shown: ShownEdition | null, ids: Iterable<string>): ProjectDocument {
  return shown && [...ids].every((id) => shown.artwork.find('layer', id)) ? shown.artwork : doc;
}

/** The edition that changes of these layers go to; undefined when they go to the base. */
export const changedEdition = (
  doc: ProjectDocument,
  { shown, changes }: Pick<Intent, 'shown' | 'changes'>,
  ids: Iterable<string>,
): Edition | undefined =>
  shown && changes === 'edition' && seenArtwork(doc, shown, ids) === shown.artwork ? shown.edition : undefined;

/** Moves that are worked out where one sees things, carried out in the base or only in the edition that changes go to. */
export function movedAsSeen(
  doc: ProjectDocument,
  intent: Intent,
  ids: Iterable<string>,
  move: (seen: ProjectDocument) => ProjectRecord[],
): ProjectRecord[] {
  const chosen = [...ids];
  const { shown } = intent;
  const seen = seenArtwork(doc, shown, chosen);
  const moved = move(seen);
  if (!shown || seen !== shown.artwork) return moved;
  const layers = moved.filter((record) => record.kind === 'layer');
  return [
    ...moved.filter((record) => record.kind !== 'layer'),
    ...movedAsShown(doc, shown.edition, shown.artwork, layers, changedEdition(doc, intent, chosen) !== undefined),
  ];
}

/** Layers of the base after a matrix that acts on them where one sees them. */
export function shapedAsSeen(
  doc: ProjectDocument,
  shown: ShownEdition | null,
  ids: Iterable<string>,
  onPlane: Matrix,
): Layer[] {
  const chosen = [...ids];
  return shown && seenArtwork(doc, shown, chosen) === shown.artwork
    ? shapedAsShown(doc, shown.edition, chosen, onPlane)
    : transformLayers(doc, chosen, onPlane);
}

/** The box around the selected layers where one sees them, in px of the plane. Throws a `Refusal` when they draw nothing. */
export function seenBox(doc: ProjectDocument, intent: Intent) {
  const layers = [...intent.selection].filter((id) => doc.find('layer', id));
  const seen = seenArtwork(doc, intent.shown, layers);
  return (
    boundsOfLayers(seen, layers) ??
    refuse('act.empty', 'what is selected draws nothing, so it has no size', { accepted: 'layers that draw something' })
  );
}
