import type { Check } from './check';
import { inEachFile } from './each-file';
import { leaveOut } from './leave-out';

export const shapesApart: Check = {
  name: 'shapes-apart',
  plural: 'stay apart although their shapes are to be united',
  about:
    'What an output wants united by colour stays as it is drawn: a part is half transparent, there is a picture, a mask or an effect, or it is too much to be united.',
  example: 'A logo with a soft shadow in a spec for cutting.',
  look: (looked) =>
    inEachFile(looked, ({ apart }) =>
      apart
        ? {
            severity: 'warning',
            message:
              'its shapes could not be united by colour: a part is half transparent, there is a picture, a mask or an effect, or it is too much',
            mend: 'Leave that file out',
          }
        : null,
    ),
  mend: (finding, { doc }) => leaveOut(finding, doc),
};
