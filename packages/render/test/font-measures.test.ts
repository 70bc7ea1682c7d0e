import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fontMeasures, readFont } from '@tolvik/core';
import { fontFileName, SHIPPED_FACES } from '../src/shipped-fonts';

const require = createRequire(__filename);

test.each(SHIPPED_FACES)('ex and ch of $stem $weight, italic $italic, are those of its file', (face) => {
  const file = join(dirname(require.resolve(`${face.package}/package.json`)), 'files', fontFileName(face));
  const { font } = readFont(readFileSync(file), face.family, face.weight, face.italic);
  const measured = {
    ex: font.xHeight / font.unitsPerEm,
    ch: font.layout('0').positions[0].xAdvance / font.unitsPerEm,
  };
  expect(fontMeasures(face)).toEqual(measured);
});

test('a font that does not ship cannot be asked', () => {
  expect(fontMeasures({ family: 'Nobody’s Serif, Schibsted Grotesk', weight: 400, italic: false })).toBeNull();
});
