import { count } from '../basics/words';
import type { Check } from './check';

export const strokesLeft: Check = {
  name: 'strokes-left',
  plural: 'keep strokes that were to be outlines',
  about:
    'A stroke could not become the outline of what it covers: it has dashes by the thousand, a gradient that measures in its box, or lies in a pattern or a mask.',
  example: 'A line with a gradient, exported with strokes as outlines.',
  look({ files, seen }) {
    return files.flatMap(({ outputId }, i) => {
      const strokes = seen[i]?.strokes;
      return strokes
        ? [
            {
              severity: 'warning' as const,
              outputId,
              message: count(strokes, 'stroke stays a stroke', 'strokes stay strokes'),
            },
          ]
        : [];
    });
  },
};
