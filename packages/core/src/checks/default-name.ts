import type { Check } from './check';

const DEFAULT =
  /^(artboard|slice|group|layer|untitled|unnamed|new|copy|path|rect(angle)?|image|picture)([ _-]*(copy)?[ _-]*\d*)$/i;

export const defaultName: Check = {
  name: 'default-name',
  plural: 'have a default name',
  about: 'A piece still has the name that a program gave it, and its files will too.',
  example: 'An artboard called "Artboard 7".',
  look: ({ piece }) =>
    DEFAULT.test(piece.name.trim()) ? [{ severity: 'warning', message: `is still called “${piece.name}”` }] : [],
};
