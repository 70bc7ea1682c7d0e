import { count } from '../basics/words';
import { shapesOf } from '../formats';
import type { Check, Finding } from './check';

type Told = Omit<Finding, 'check' | 'pieceId'>;

export const cutThin: Check = {
  name: 'cut-thin',
  plural: 'have parts or gaps that are too thin to cut',
  about: 'Of a file for cutting, parts or gaps are thinner than its output says, at the size of the file.',
  example: 'A hairline in a logo that is cut 40 mm wide.',
  look({ files, seen }, { doc }) {
    return files.flatMap(({ outputId }, i): Told[] => {
      const { thinParts = 0, thinGaps = 0, searched = true } = seen[i]?.cut ?? {};
      const output = doc.find('output', outputId);
      const least = output && shapesOf(output.settings)?.leastMm;
      if (!searched)
        return [
          {
            severity: 'hint',
            outputId,
            message: `is too large to be searched for parts and gaps thinner than ${least} mm`,
          },
        ];
      const told = [thinParts > 0 && count(thinParts, 'part'), thinGaps > 0 && count(thinGaps, 'gap')].filter(
        (each) => each !== false,
      );
      const are = thinParts + thinGaps === 1 ? 'is' : 'are';
      return told.length > 0
        ? [
            {
              severity: 'warning',
              outputId,
              message: `${told.join(' and ')} ${are} thinner than ${least} mm`,
            },
          ]
        : [];
    });
  },
};
