import { artworkOn } from '../arrange/artboards';
import { layerBoxes } from '../artwork/artwork-index';
import { type Bounds, printNumber } from '../artwork/matrix';
import type { ProjectDocument } from '../document/document';
import type { Layer } from '../document/records';
import type { Region } from '../plan/sizes';
import type { Check } from './check';

/** Less than this is anti-aliasing, not artwork. */
const ENOUGH_PX = 0.2;

const liesWithin = ({ minX, minY, maxX, maxY }: Bounds, { x, y, width, height }: Region) => minX >= x && minY >= y && maxX <= x + width && maxY <= y + height;

/** The box of the outermost group that a layer is in, hidden parts too: nothing of it reaches further. */
function topBox(doc: ProjectDocument, layer: Layer): Bounds {
  let top = layer;
  for (let at: Layer | undefined = layer; at; at = doc.find('layer', at.parentId)) top = at;
  return layerBoxes(doc).get(top.id) as Bounds;
}

export const pokesOut: Check = {
  name: 'pokes-out',
  about: 'Artwork reaches beyond its artboard and is cut off in its files.',
  example: 'A leaf that ends 2 px below the artboard.',
  look({ piece: { record, region }, allLeaves }, { doc }) {
    if (record.kind !== 'artboard' || record.follows || allLeaves.every((leaf) => liesWithin(topBox(doc, leaf.layer), region))) return [];
    const box = artworkOn(doc, record);
    if (!box) return [];
    const over = { left: region.x - box.minX, top: region.y - box.minY, right: box.maxX - region.x - region.width, bottom: box.maxY - region.y - region.height };
    const [side, by] = Object.entries(over).reduce((most, each) => (each[1] > most[1] ? each : most));
    return by > ENOUGH_PX ? [{ severity: 'warning', message: `artwork pokes out at the ${side} by ${printNumber(by, 2)} px`, mend: 'Widen the artboard' }] : [];
  },
  mend({ pieceId }, { doc }) {
    const artboard = doc.find('artboard', pieceId);
    const box = artboard && artworkOn(doc, artboard);
    if (!artboard || !box) return null;
    const x = Math.min(artboard.x, Math.floor(box.minX));
    const y = Math.min(artboard.y, Math.floor(box.minY));
    const width = Math.max(artboard.x + artboard.width, Math.ceil(box.maxX)) - x;
    const height = Math.max(artboard.y + artboard.height, Math.ceil(box.maxY)) - y;
    return { label: `widen ${artboard.name}`, puts: [{ ...artboard, x, y, width, height }], removes: [] };
  },
};
