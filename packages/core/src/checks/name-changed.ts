import { safeSegment } from '../plan/names';
import type { Check } from './check';

/** Longer paths are refused by some file systems, archives and builds. */
const LONGEST_PATH = 200;
/** What a build that wants lower case and underscores takes for a resource name. */
const PLAIN = /^[a-z][a-z0-9_]*$/;

export const nameChanged: Check = {
  name: 'name-changed',
  plural: 'have a name that cannot stay',
  about: 'A name cannot be on disk as it was typed, or a build would refuse it, or its path is very long.',
  example: 'An artboard called "Crab 1/2", or "2-boats" in a spec of density folders.',
  look({ piece, files }, { doc }) {
    if (files.length === 0) return [];
    const safe = safeSegment(piece.name);
    if (safe !== piece.name.normalize('NFC'))
      return [{ severity: 'warning', message: `its name becomes “${safe}” on disk` }];
    const refused = files.find((file) => {
      const output = doc.find('output', file.outputId);
      const spec = output && doc.find('spec', output.specId);
      return spec?.letterCase === 'snake' && !PLAIN.test((file.path.split('/').at(-1) ?? '').replace(/\.[^.]+$/, ''));
    });
    if (refused)
      return [
        {
          severity: 'warning',
          outputId: refused.outputId,
          message: `${refused.path.split('/').at(-1)} would be refused: such names start with a letter and hold letters, digits and _ only`,
        },
      ];
    const long = files.find((file) => file.path.length > LONGEST_PATH);
    return long
      ? [{ severity: 'warning', outputId: long.outputId, message: `a path of ${long.path.length} characters` }]
      : [];
  },
};
