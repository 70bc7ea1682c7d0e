import type { Check } from './check';
import { inEachFile } from './each-file';

export const cutInks: Check = {
  name: 'cut-inks',
  plural: 'have more than one colour to cut',
  about: 'A file for cutting has more than one colour: a cutter takes one after the other, an engraver only one.',
  example: 'A logo in two colours in a spec for cutting.',
  look: (looked) =>
    inEachFile(looked, ({ cut }) =>
      cut && cut.inks > 1
        ? { severity: 'hint', message: `has ${cut.inks} colours to cut; a variant in one ink has one` }
        : null,
    ),
};
