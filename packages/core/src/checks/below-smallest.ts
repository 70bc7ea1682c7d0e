import { FORMATS } from '../formats';
import { MM_PER_INCH } from '../geometry/sizes';
import { artboardOf } from '../pieces/pieces';
import { smallestOf } from '../pieces/smallest';
import type { Check } from './check';
import { leaveOut } from './leave-out';

export const belowSmallest: Check = {
  name: 'below-smallest',
  plural: 'are narrower than they may be',
  about: 'A file is narrower than the smallest width that was set for what it shows: on screens in px, in print in mm.',
  example: 'A lockup at 16 px where 96 px is the least at which its words can be read.',
  look({ piece, files }, { doc }) {
    const artboard = artboardOf(doc, piece.record);
    const smallest = artboard && smallestOf(doc, artboard);
    if (!smallest) return [];
    const { px, mm } = smallest;
    return files.flatMap(({ outputId, format, widthPx, dpi }) => {
      const output = doc.find('output', outputId);
      if (!output) return [];
      const isTrue = 'mm' in output.size;
      if (!FORMATS[format].raster && !isTrue) return [];
      const isPrint = isTrue || output.size.kind === 'dpi';
      const widthMm = (widthPx / dpi) * MM_PER_INCH;
      const least = isPrint ? mm : px;
      if (least === undefined || (isPrint ? widthMm + 0.05 >= least : widthPx >= least)) return [];
      const [is, may] = isPrint ? [`${widthMm.toFixed(1)} mm`, `${least} mm`] : [`${widthPx} px`, `${least} px`];
      return [
        {
          severity: 'warning' as const,
          outputId,
          message: `${is} wide, less than the ${may} set for it`,
          mend: 'Leave that file out',
        },
      ];
    });
  },
  mend: (finding, { doc }) => leaveOut(finding, doc),
};
