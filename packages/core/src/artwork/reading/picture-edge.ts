import type { ProjectDocument } from '../../document/document';
import type { Layer } from '../../document/records';
import { type Bounds, unite } from '../../geometry/matrix';
import { referred } from '../../profile/references';
import { layerBounds } from '../bounds/bounds';

/** What the clip is called that keeps a file in its own picture; a clip of another name is somebody's own. */
export const EDGE_NAME = 'Edge of the picture';

/** The clip that cuts a layer at the edge of the file it came from; undefined when nothing of it reaches over. */
export function edgeClip(doc: ProjectDocument, layer: Layer): Layer | undefined {
  const clip = doc.find('layer', referred(layer.attrs['clip-path']) ?? '');
  return clip?.name === EDGE_NAME ? clip : undefined;
}

/** The box that a layer cut at the edge of its picture would have if it were not, on the plane. */
export function beyondEdge(doc: ProjectDocument, layer: Layer): Bounds | null {
  let box: Bounds | null = null;
  for (const child of doc.children(layer.id)) box = unite(box, layerBounds(doc, child.id));
  return box;
}
