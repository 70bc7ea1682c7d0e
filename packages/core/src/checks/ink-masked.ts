import { FORMATS } from '../formats';
import type { Check } from './check';
import { inEachFile } from './each-file';

export const inkMasked: Check = {
  name: 'ink-masked',
  plural: 'have no outline of their ink',
  about:
    'No outline of its ink was found, so that its file is a rectangle behind a mask: right to look at, of no use to cut.',
  example: 'A variant in one ink of a logo that holds a photograph.',
  look: (looked) =>
    inEachFile(looked, ({ masked }, { format }) =>
      masked && !FORMATS[format].raster
        ? {
            severity: 'warning',
            message: 'no outline of its ink was found: the file is a rectangle behind a mask, and cannot be cut',
          }
        : null,
    ),
};
