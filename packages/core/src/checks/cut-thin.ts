import { count } from '../basics/words';
import { shapesOf } from '../formats';
import type { Check } from './check';

export const cutThin: Check = {
  name: 'cut-thin',
  plural: 'have parts or gaps that are too thin to cut',
  about: 'Of a file for cutting, parts or gaps are thinner than its output says, at the size of the file.',
  example: 'A hairline in a logo that is cut 40 mm wide.',
  look({ files, seen }, { doc }) {
    return files.flatMap(({ outputId }, i) => {
      const { thinParts = 0, thinGaps = 0 } = seen[i]?.cut ?? {};
      const output = doc.find('output', outputId);
      const least = output && shapesOf(output.settings)?.leastMm;
      const told = [thinParts > 0 && count(thinParts, 'part'), thinGaps > 0 && count(thinGaps, 'gap')].filter(
        (each) => each !== false,
      );
      const are = thinParts + thinGaps === 1 ? 'is' : 'are';
      return told.length > 0
        ? [
            {
              severity: 'warning' as const,
              outputId,
              message: `${told.join(' and ')} ${are} thinner than ${least} mm`,
            },
          ]
        : [];
    });
  },
};
