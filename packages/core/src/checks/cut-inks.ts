import type { Check } from './check';

export const cutInks: Check = {
  name: 'cut-inks',
  plural: 'have more than one colour to cut',
  about: 'A file for cutting has more than one colour: a cutter takes one after the other, an engraver only one.',
  example: 'A logo in two colours in a spec for cutting.',
  look({ files, seen }) {
    return files.flatMap(({ outputId }, i) => {
      const inks = seen[i]?.cut?.inks ?? 0;
      return inks > 1
        ? [{ severity: 'hint' as const, outputId, message: `has ${inks} colours to cut; a variant in one ink has one` }]
        : [];
    });
  },
};
