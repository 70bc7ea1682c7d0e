import { count } from '../basics/words';
import type { Check } from './check';
import { inEachFile } from './each-file';

export const strokesLeft: Check = {
  name: 'strokes-left',
  plural: 'keep strokes that were to be outlines',
  about:
    'A stroke could not become the outline of what it covers: it has dashes by the thousand, a gradient that measures in its box, or lies in a pattern or a mask.',
  example: 'A line with a gradient, exported with strokes as outlines.',
  look: (looked) =>
    inEachFile(looked, ({ strokes }) =>
      strokes
        ? { severity: 'warning', message: count(strokes, 'stroke stays a stroke', 'strokes stay strokes') }
        : null,
    ),
};
