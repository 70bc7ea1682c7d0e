import { trimToArtwork } from '../arrange/artboards';
import { type Bounds, unite } from '../geometry/matrix';
import type { Check } from './check';

/** Artwork that fills less of both sides than this has most likely been forgotten to be scaled or trimmed. */
const LEAST_SHARE = 0.4;

export const smallInside: Check = {
  name: 'small-inside',
  plural: 'are mostly empty',
  about: 'The artwork is much smaller than its artboard.',
  example: 'A mark of 20 px on an artboard of 200.',
  look({ piece: { record, region }, leaves }) {
    if (record.kind !== 'artboard' || record.follows) return [];
    const box = leaves.reduce<Bounds | null>((all, leaf) => unite(all, leaf), null);
    if (!box) return [];
    const share = Math.max((box.maxX - box.minX) / region.width, (box.maxY - box.minY) / region.height);
    return share > 0 && share < LEAST_SHARE
      ? [
          {
            severity: 'warning',
            message: `artwork fills only ${Math.round(share * 100)} % of it`,
            mend: 'Trim to artwork',
          },
        ]
      : [];
  },
  mend({ pieceId }, { doc }) {
    const artboard = doc.find('artboard', pieceId);
    const puts = artboard ? trimToArtwork(doc, [artboard]) : [];
    return puts.length > 0 ? { label: `trim ${puts[0].name}`, puts, removes: [] } : null;
  },
};
