import type { Check } from './check';

export const liveText: Check = {
  name: 'live-text',
  plural: 'have text in a missing font',
  about: 'Text is outlined on export; where its font is missing, another is used instead.',
  example: 'A label in a typeface that was not brought along.',
  look({ leaves }, { fonts }) {
    const families = new Set(leaves.filter((leaf) => leaf.fontFamily).map((leaf) => leaf.fontFamily));
    for (const asked of families) {
      const found = fonts.find(asked, 400, false);
      if (found && !found.exact)
        return [
          {
            severity: 'warning',
            message: `${asked.split(',')[0].replace(/["']/g, '').trim()} is missing; ${found.face.family} is used instead`,
          },
        ];
    }
    return families.size > 0 ? [{ severity: 'hint', message: 'has text, which becomes outlines' }] : [];
  },
};
