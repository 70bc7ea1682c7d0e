import type { Check } from './check';
import { leaveOut } from './leave-out';

export const onlyAPicture: Check = {
  name: 'only-a-picture',
  plural: 'are only a bitmap in SVG',
  about: 'An SVG would hold nothing but a bitmap: as heavy as the picture and no sharper.',
  example: 'A scan wrapped in an SVG.',
  look({ leaves, files }) {
    const vector = files.find((file) => file.format === 'svg');
    return vector && leaves.length > 0 && leaves.every((leaf) => leaf.layer.tag === 'image')
      ? [
          {
            severity: 'warning',
            outputId: vector.outputId,
            message: 'its SVG is only a bitmap',
            mend: 'Leave that file out',
          },
        ]
      : [];
  },
  mend: (finding, { doc }) => leaveOut(finding, doc),
};
