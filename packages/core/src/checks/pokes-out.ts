import { artworkOn } from '../arrange/artboards';
import { layerBoxes } from '../artwork/bounds/artwork-index';
import { beyondEdge, edgeClip } from '../artwork/reading/picture-edge';
import { type ProjectDocument, ROOT } from '../document/document';
import type { Artboard, Layer } from '../document/records';
import { type Bounds, boundsOf, overlaps, printNumber, unite } from '../geometry/matrix';
import type { Region } from '../geometry/region';
import type { Check } from './check';

/** Less than this is anti-aliasing, not artwork. */
const ENOUGH_PX = 0.2;

const liesWithin = ({ minX, minY, maxX, maxY }: Bounds, { x, y, width, height }: Region) =>
  minX >= x && minY >= y && maxX <= x + width && maxY <= y + height;

function topOf(doc: ProjectDocument, layer: Layer): Layer {
  let top = layer;
  for (const at of doc.lineage(layer)) top = at;
  return top;
}

/** The box of the outermost group that a layer is in, hidden parts too: nothing of it reaches further. */
const topBox = (doc: ProjectDocument, layer: Layer): Bounds => layerBoxes(doc).get(topOf(doc, layer).id) as Bounds;

/** How far the artwork on an artboard reaches, what a file cuts off at its own edge counted in. */
function reachOf(doc: ProjectDocument, artboard: Artboard, leaves: readonly { layer: Layer }[]): Bounds | null {
  let box = artworkOn(doc, artboard);
  for (const top of new Set(leaves.map(({ layer }) => topOf(doc, layer))))
    if (edgeClip(doc, top)) box = unite(box, beyondEdge(doc, top));
  return box;
}

function uncut(layer: Layer): Layer {
  const { 'clip-path': _, ...attrs } = layer.attrs;
  return { ...layer, attrs };
}

export const pokesOut: Check = {
  name: 'pokes-out',
  plural: 'have artwork poking out',
  about: 'Artwork reaches beyond its artboard and is cut off in its files.',
  example: 'A leaf that ends 2 px below the artboard.',
  look({ piece: { record, region }, allLeaves }, { doc }) {
    if (record.kind !== 'artboard' || record.follows) return [];
    const cut = allLeaves.some((leaf) => edgeClip(doc, topOf(doc, leaf.layer)));
    if (!cut && allLeaves.every((leaf) => liesWithin(topBox(doc, leaf.layer), region))) return [];
    const box = reachOf(doc, record, allLeaves);
    if (!box) return [];
    const over = {
      left: region.x - box.minX,
      top: region.y - box.minY,
      right: box.maxX - region.x - region.width,
      bottom: box.maxY - region.y - region.height,
    };
    const [side, by] = Object.entries(over).reduce((most, each) => (each[1] > most[1] ? each : most));
    return by > ENOUGH_PX
      ? [
          {
            severity: 'warning',
            message: `artwork pokes out at the ${side} by ${printNumber(by, 2)} px`,
            mend: 'Widen the artboard',
          },
        ]
      : [];
  },
  mend({ pieceId }, { doc }) {
    const artboard = doc.find('artboard', pieceId);
    if (!artboard) return null;
    // What its file cut off shows again.
    const cut = doc.children(ROOT).filter((top) => {
      const box = edgeClip(doc, top) && layerBoxes(doc).get(top.id);
      return box && overlaps(box, boundsOf(artboard));
    });
    const box = reachOf(
      doc,
      artboard,
      cut.map((layer) => ({ layer })),
    );
    if (!box) return null;
    const x = Math.min(artboard.x, Math.floor(box.minX));
    const y = Math.min(artboard.y, Math.floor(box.minY));
    const width = Math.max(artboard.x + artboard.width, Math.ceil(box.maxX)) - x;
    const height = Math.max(artboard.y + artboard.height, Math.ceil(box.maxY)) - y;
    return {
      label: `widen ${artboard.name}`,
      puts: [{ ...artboard, x, y, width, height }, ...cut.map(uncut)],
      removes: [],
    };
  },
};
