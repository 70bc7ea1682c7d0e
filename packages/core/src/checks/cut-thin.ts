import { count } from '../basics/words';
import { shapesOf } from '../formats';
import type { Check } from './check';
import { inEachFile } from './each-file';

export const cutThin: Check = {
  name: 'cut-thin',
  plural: 'have parts or gaps that are too thin to cut',
  about: 'Of a file for cutting, parts or gaps are thinner than its output says, at the size of the file.',
  example: 'A hairline in a logo that is cut 40 mm wide.',
  look: (looked, { doc }) =>
    inEachFile(looked, ({ cut }, { outputId }) => {
      const output = doc.find('output', outputId);
      if (!cut || !output) return null;
      const { thinParts, thinGaps, searched } = cut;
      const least = shapesOf(output.settings)?.leastMm;
      if (!searched)
        return { severity: 'hint', message: `is too large to be searched for parts and gaps thinner than ${least} mm` };
      const told = [thinParts > 0 && count(thinParts, 'part'), thinGaps > 0 && count(thinGaps, 'gap')].filter(
        (each) => each !== false,
      );
      if (told.length === 0) return null;
      const are = thinParts + thinGaps === 1 ? 'is' : 'are';
      return { severity: 'warning', message: `${told.join(' and ')} ${are} thinner than ${least} mm` };
    }),
};
