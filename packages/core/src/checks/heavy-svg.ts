import type { Check } from './check';

/** Characters of path data that a small icon and a large drawing may have before somebody should look. */
const ICON_SIDE_PX = 256;
const MOST_OF_ICON = 24_000;
const MOST_OF_DRAWING = 600_000;

export const heavySvg: Check = {
  name: 'heavy-svg',
  plural: 'are very heavy SVG',
  about: 'An SVG is very heavy for its size: most often a traced picture, or points that nobody sees.',
  example: 'An icon of 24 px with 60 KB of path data.',
  look({ piece: { region }, leaves, files }) {
    const vector = files.find((file) => file.format === 'svg');
    if (!vector) return [];
    const length = leaves.reduce(
      (sum, { layer }) => sum + (layer.attrs.d?.length ?? 0) + (layer.attrs.points?.length ?? 0),
      0,
    );
    const most = Math.max(region.width, region.height) <= ICON_SIDE_PX ? MOST_OF_ICON : MOST_OF_DRAWING;
    return length > most
      ? [
          {
            severity: 'warning',
            outputId: vector.outputId,
            message: `its paths alone take ${Math.round(length / 1024)} KB`,
          },
        ]
      : [];
  },
};
