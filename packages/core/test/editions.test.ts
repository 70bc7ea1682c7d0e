import {
  Composer,
  differences,
  type Edition,
  editionRecord,
  givenToBase,
  NO_FONTS,
  newId,
  planFiles,
  takeBack,
  withOverrides,
} from '../src';
import { project, snapshot, svg } from './fixtures';

function card() {
  const made = project({
    card: svg(
      '<rect id="ground" width="24" height="24" fill="#eee"/><g id="word"><path id="letter" d="M1 1h3v3z"/></g><g id="other" display="none"><path d="M5 5h3v3z"/></g>',
    ),
  });
  const { doc } = made;
  const id = (name: string) => doc.list('layer').find((layer) => layer.name === name)?.id ?? '';
  const edition = (): Edition => doc.list('edition')[0];
  doc.apply({
    puts: [
      editionRecord.parse({
        id: newId(),
        kind: 'edition',
        artboardId: made.artboard('card').id,
        order: 'a0',
        name: 'winter',
        specIds: [doc.list('spec')[0].id],
      }),
    ],
    removes: [],
  });
  const put = (next: Edition) => doc.apply({ puts: [next], removes: [] });
  const picture = () => {
    const composer = new Composer(doc, { fonts: NO_FONTS, pictures: () => undefined });
    const file = planFiles(doc, 'p').files.find((each) => each.pieceId === edition().id);
    return file ? composer.compose(file).svg : '';
  };
  return { doc, id, edition, put, picture };
}

test('what says nothing is not held', () => {
  const { doc, id, edition } = card();
  expect(
    withOverrides(doc, edition(), [id('word')], () => ({ shown: true, offset: { x: 0, y: 0 }, opacity: 1 })).overrides,
  ).toEqual({});
  expect(withOverrides(doc, edition(), [id('other')], () => ({ shown: true })).overrides).toEqual({
    [id('other')]: { shown: true },
  });
});

test('differences add up, are listed in words, and are taken back one by one', () => {
  const { doc, id, edition, put } = card();
  put(withOverrides(doc, edition(), [id('word')], (before) => ({ ...before, offset: { x: 3, y: -2 } })));
  put(withOverrides(doc, edition(), [id('word')], (before) => ({ ...before, tint: '#00ff00', opacity: 0.5 })));
  put(withOverrides(doc, edition(), [id('other')], (before) => ({ ...before, shown: true })));
  expect(differences(doc, edition()).map((each) => each.words)).toEqual([
    'moved 3, -2',
    'tinted #00ff00',
    'at 50 %',
    'shown',
  ]);
  put(takeBack(edition(), id('word'), 'tint'));
  expect(differences(doc, edition()).map((each) => each.words)).toEqual(['moved 3, -2', 'at 50 %', 'shown']);
  put(takeBack(edition(), id('word')));
  put(takeBack(edition(), id('other'), 'shown'));
  expect(edition().overrides).toEqual({});
});

test('pushing a difference to the base changes no picture of the edition', () => {
  const { doc, id, edition, put, picture } = card();
  put(withOverrides(doc, edition(), [id('word')], () => ({ offset: { x: 3, y: 2 }, tint: '#00ff00' })));
  put(withOverrides(doc, edition(), [id('other')], () => ({ shown: true })));
  const before = picture();
  const state = snapshot(doc);
  const undos = [id('word'), id('other')].map((layerId) => {
    const change = givenToBase(doc, edition(), layerId);
    if (!change) throw new Error('nothing to push');
    return doc.apply(change);
  });
  expect(picture()).toBe(before);
  expect(differences(doc, edition()).map((each) => each.words)).toEqual(['tinted #00ff00']);
  expect(givenToBase(doc, edition(), id('word'))).toBeNull();
  for (const undo of undos.reverse()) doc.apply(undo);
  expect(snapshot(doc)).toEqual(state);
});

test('a deleted layer is told, kept, and can be taken back', () => {
  const { doc, id, edition, put } = card();
  const gone = id('letter');
  put(withOverrides(doc, edition(), [gone], () => ({ tint: '#ff0000' })));
  doc.apply({ puts: [], removes: [gone] });
  expect(differences(doc, edition())).toEqual([
    { layerId: gone, title: 'a layer that was deleted', field: 'tint', words: 'tinted #ff0000' },
  ]);
  expect(takeBack(edition(), gone).overrides).toEqual({});
});

test('what an edition does not hold follows the base', () => {
  const { doc, id, edition, put, picture } = card();
  put(withOverrides(doc, edition(), [id('word')], () => ({ tint: '#00ff00' })));
  const ground = doc.find('layer', id('ground'));
  if (!ground) throw new Error('no ground');
  doc.apply({ puts: [{ ...ground, attrs: { ...ground.attrs, fill: '#123456' } }], removes: [] });
  expect(picture()).toContain('#123456');
});
