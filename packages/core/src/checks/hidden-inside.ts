import type { Check } from './check';

export const hiddenInside: Check = {
  name: 'hidden-inside',
  plural: 'have hidden layers inside',
  about: 'Hidden or bench-only layers lie in a piece; they are in none of its files.',
  example: 'A guide that was left on the artboard.',
  look({ piece: { record }, allLeaves }, { doc }) {
    if (
      record.kind !== 'artboard' ||
      record.follows ||
      doc.list('edition').some((edition) => edition.artboardId === record.id)
    )
      return [];
    const count = allLeaves.filter((leaf) => !leaf.visible).length;
    return count > 0
      ? [
          {
            severity: 'hint',
            message: `${count} hidden or bench-only ${count === 1 ? 'layer lies' : 'layers lie'} in it`,
          },
        ]
      : [];
  },
};
