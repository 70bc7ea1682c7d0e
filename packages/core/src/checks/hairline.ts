import { FORMATS } from '../formats';
import { printNumber } from '../geometry/matrix';
import type { Check } from './check';

export const hairline: Check = {
  name: 'hairline',
  plural: 'have lines that vanish',
  about: 'A stroke is thinner than one pixel in the smallest picture a piece becomes, and fades there.',
  example: 'Lines of 0.5 px in an icon exported at 16 px.',
  look({ leaves, files }) {
    const thinnest = Math.min(...leaves.filter((leaf) => leaf.strokePx > 0).map((leaf) => leaf.strokePx));
    const smallest = files
      .filter((file) => FORMATS[file.format].raster)
      .reduce<(typeof files)[number] | null>(
        (least, file) => (!least || file.scale < least.scale ? file : least),
        null,
      );
    if (!Number.isFinite(thinnest) || !smallest || thinnest * smallest.scale >= 0.999) return [];
    return [
      {
        severity: 'warning',
        outputId: smallest.outputId,
        message: `lines of ${printNumber(thinnest * smallest.scale, 2)} px at ${smallest.widthPx} × ${smallest.heightPx}`,
      },
    ];
  },
};
