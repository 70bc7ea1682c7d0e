import { pieceRecord } from '../pieces/pieces';
import type { Check } from './check';

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
  mend({ pieceId, outputId }, { doc }) {
    const record = pieceRecord(doc, pieceId);
    return record && outputId && !record.offOutputIds.includes(outputId)
      ? {
          label: `leave the SVG of ${record.name} out`,
          puts: [{ ...record, offOutputIds: [...record.offOutputIds, outputId] }],
          removes: [],
        }
      : null;
  },
};
