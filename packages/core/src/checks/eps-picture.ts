import type { Check } from './check';
import { inEachFile } from './each-file';
import { leaveOut } from './leave-out';

export const epsPicture: Check = {
  name: 'eps-picture',
  plural: 'are pictures in EPS',
  about:
    'PostScript knows no transparency: what has any, or a picture, a mask or an effect, is one picture of 300 dpi on white in its EPS.',
  example: 'A logo with a half transparent part, exported as EPS.',
  look: (looked) =>
    inEachFile(looked, ({ asPicture }) =>
      asPicture
        ? {
            severity: 'warning',
            message:
              'its EPS is a picture on white: a part is half transparent, or there is a picture, a mask or an effect',
            mend: 'Leave that file out',
          }
        : null,
    ),
  mend: (finding, { doc }) => leaveOut(finding, doc),
};
