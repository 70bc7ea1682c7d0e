import { meansNothing } from '../document/given-names';
import type { Check } from './check';

export const defaultName: Check = {
  name: 'default-name',
  plural: 'have a default name',
  about: 'A piece still has the name that a program gave it, and its files will too.',
  example: 'An artboard called "Artboard 7".',
  look: ({ piece }) =>
    meansNothing(piece.name) ? [{ severity: 'warning', message: `is still called “${piece.name}”` }] : [],
};
