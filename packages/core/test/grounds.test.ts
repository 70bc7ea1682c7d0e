import {
  artboardRecord,
  Composer,
  colourFacts,
  composeContent,
  groundOf,
  groundToSee,
  handoverVariants,
  lookFor,
  makeVariants,
  NO_FONTS,
  type Output,
  outputRecord,
  outputsInWords,
  type Piece,
  type ProjectDocument,
  performRequest,
  pieces,
  planFiles,
  sliceRecord,
} from '../src';
import { project, svg } from './fixtures';

const LOGO = svg('<path d="M3 3h18v18z" fill="#12343b"/>');

/** A logo with its reversed variant, and one output of each format. */
function made(): {
  doc: ProjectDocument;
  reversed: Piece;
  output(format: 'svg' | 'pdf' | 'png' | 'jpeg', background?: string): Output;
} {
  const { doc, artboard, outputs } = project({ logo: LOGO });
  const source = artboard('logo');
  const variants = makeVariants(doc, source, handoverVariants(colourFacts(doc, source, [])), '{source}-{variant}');
  doc.apply({ puts: variants, removes: [] });
  const reversed = pieces(doc).find(({ name }) => name === 'logo-reversed');
  if (!reversed) throw new Error('no variant');
  return {
    doc,
    reversed,
    output: (format, background = 'piece') =>
      outputRecord.parse({ ...outputs[1], settings: { format }, background }) as Output,
  };
}

test('a variant has a ground to be looked at on, and files without it unless one is asked for', () => {
  const { doc, reversed, output } = made();
  const ground = '#12343b';
  expect(reversed.record).toMatchObject({ background: ground, backgroundUse: 'shown' });
  for (const format of ['svg', 'pdf', 'png'] as const) {
    expect(groundOf(doc, reversed, output(format))).toBeNull();
    expect(groundOf(doc, reversed, output(format, 'none'))).toBeNull();
    expect(groundOf(doc, reversed, output(format, 'ground'))).toBe(ground);
    expect(groundOf(doc, reversed, output(format, '#e8d5a9'))).toBe('#e8d5a9');
    expect(groundToSee(doc, reversed, output(format))).toBe(ground);
  }
  for (const background of ['piece', 'none', 'ground'])
    expect(groundOf(doc, reversed, output('jpeg', background))).toBe(ground);
});

test('its files hold no ground, in any format that shows through', () => {
  const { doc, reversed } = made();
  const composer = new Composer(doc, { fonts: NO_FONTS, pictures: () => undefined });
  const files = planFiles(doc, 'p').files.filter(({ pieceId }) => pieceId === reversed.id);
  expect(files.length).toBeGreaterThan(1);
  for (const file of files) {
    const { svg: drawn } = composer.compose(file);
    expect(drawn).not.toContain('#12343b');
    expect(drawn).toContain('#ffffff');
  }
});

test('a background that was painted before stays in files, and white is what a JPEG has else', () => {
  const { doc, artboard } = project({ card: LOGO });
  const { output } = made();
  doc.apply({ puts: [artboardRecord.parse({ ...artboard('card'), background: '#e8d5a9' })], removes: [] });
  const [card] = pieces(doc);
  expect(groundOf(doc, card, output('svg'))).toBe('#e8d5a9');
  expect(groundOf(doc, card, output('png', 'none'))).toBeNull();
  expect(groundOf(doc, card, output('jpeg', 'none'))).toBe('#ffffff');
  expect(groundOf(doc, card, output('png', 'ground'))).toBe('#e8d5a9');
});

test('whether files have it is changed by an act, and back by undo; the colour stays', () => {
  const { doc, reversed, output } = made();
  const undo = doc.apply(performRequest(doc, 'set-background', { ids: [reversed.id], settings: { use: 'painted' } }));
  const now = pieces(doc).find(({ id }) => id === reversed.id) as Piece;
  expect(groundOf(doc, now, output('svg'))).toBe('#12343b');
  doc.apply(undo);
  expect(groundOf(doc, pieces(doc).find(({ id }) => id === reversed.id) as Piece, output('svg'))).toBeNull();
});

test('a slice that is asked for on its ground has the grounds of the artboards that it shows', () => {
  const { doc, artboard } = project({ card: LOGO });
  const { output } = made();
  const slice = sliceRecord.parse({
    id: 'all',
    kind: 'slice',
    order: 'a0',
    name: 'all',
    source: { kind: 'everything', to: 'artboards' },
    specIds: artboard('card').specIds,
  });
  doc.apply({ puts: [{ ...artboard('card'), background: '#e8d5a9' }, slice], removes: [] });
  const [whole] = pieces(doc).filter(({ id }) => id === 'all');
  const drawn = (background: string) =>
    composeContent(doc, whole, lookFor(output('svg', background)), { fonts: NO_FONTS, pictures: () => undefined }).body;
  expect(['piece', 'ground', 'none'].map((background) => drawn(background).includes('#e8d5a9'))).toEqual([
    true,
    true,
    false,
  ]);
});

test('“on ground” says it in words', () => {
  const said = outputsInWords('svg, png 64 on ground');
  if (typeof said === 'string') throw new Error(said);
  expect(said.map(({ background }) => background)).toEqual(['piece', 'ground']);
  expect(outputsInWords('png on moss')).toBe(
    '“moss” is no colour to be on; needs one such as #0c6a53 or white, or “ground”',
  );
});
