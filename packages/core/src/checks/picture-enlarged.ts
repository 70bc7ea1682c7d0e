import { FORMATS } from '../formats';
import { printNumber } from '../geometry/matrix';
import type { Check } from './check';

/** Enlarging by less than this cannot be told from the picture itself. */
const TOLERATED = 1.1;

export const pictureEnlarged: Check = {
  name: 'picture-enlarged',
  plural: 'enlarge a picture',
  about: 'A picture has fewer pixels than an output needs of it, so it comes out soft.',
  example: 'A photograph of 400 px that fills 800 px of a PNG.',
  look({ leaves, files }, { pictureSize }) {
    if (!pictureSize) return [];
    const raster = files.filter((file) => FORMATS[file.format].raster);
    const largest = raster.reduce<(typeof raster)[number] | null>(
      (most, file) => (!most || file.scale > most.scale ? file : most),
      null,
    );
    if (!largest) return [];
    for (const { layer, minX, maxX, minY, maxY } of leaves) {
      const size = layer.tag === 'image' ? pictureSize(layer.attrs.href?.slice('blob:'.length) ?? '') : undefined;
      if (!size) continue;
      // By the side that is enlarged less: a picture may be cut, or turned by a quarter.
      const factor = Math.min(
        ((maxX - minX) * largest.scale) / size.width,
        ((maxY - minY) * largest.scale) / size.height,
      );
      if (factor > TOLERATED)
        return [
          {
            severity: 'warning',
            outputId: largest.outputId,
            message: `its picture of ${size.width} × ${size.height} px is enlarged ${printNumber(factor, 1)} times`,
          },
        ];
    }
    return [];
  },
};
