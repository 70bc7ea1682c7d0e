import fc from 'fast-check';
import {
  artworkChangedSince,
  artworkIndex,
  Composer,
  type Layer,
  layerBoxes,
  NO_FONTS,
  ProjectDocument,
  type ProjectRecord,
  pictureChanges,
  pieces,
  planFiles,
  troubleFinder,
} from '../src';
import { edit, edits, everything, pictures } from './edits';
import { runs } from './properties';

const boxOf = ({ minX, minY, maxX, maxY }: { minX: number; minY: number; maxX: number; maxY: number }) => [
  minX,
  minY,
  maxX,
  maxY,
];

test('after any edits, what was kept of the artwork is what a fresh look finds', () => {
  fc.assert(
    fc.property(edits, (list) => {
      const doc = everything();
      artworkIndex(doc);
      for (const [kind, pick, amount] of list) {
        doc.apply(edit(doc, kind, pick, amount));
        const fresh = new ProjectDocument(doc.all());
        const leaves = (of: ProjectDocument) =>
          artworkIndex(of).leaves.map((leaf) => [
            leaf.layer.id,
            ...boxOf(leaf),
            leaf.visible,
            leaf.fill,
            leaf.strokePx,
          ]);
        expect(leaves(doc)).toEqual(leaves(fresh));
        expect(artworkIndex(doc).bounds).toEqual(artworkIndex(fresh).bounds);
        expect(layerBoxes(doc)).toEqual(layerBoxes(fresh));
      }
    }),
    runs(40),
  );
});

test('after any edits, composed files have the keys that a fresh composer gives them', () => {
  fc.assert(
    fc.property(edits, (list) => {
      const doc = everything();
      const composer = new Composer(doc, { fonts: NO_FONTS, pictures: () => undefined });
      const keys = (of: Composer) =>
        planFiles(of.doc, 'kept').files.flatMap((file) => (file.problem ? [] : [`${file.path} ${of.key(file)}`]));
      keys(composer);
      for (const [kind, pick, amount] of list) {
        doc.apply(edit(doc, kind, pick, amount));
        expect(keys(composer)).toEqual(
          keys(new Composer(new ProjectDocument(doc.all()), { fonts: NO_FONTS, pictures: () => undefined })),
        );
      }
    }),
    runs(40),
  );
});

test('after any edit, a piece whose picture is said to be as it was is as it was', () => {
  let same = 0;
  fc.assert(
    fc.property(edits, (list) => {
      const doc = everything();
      let before = pictures(doc);
      for (const [kind, pick, amount] of list) {
        const change = edit(doc, kind, pick, amount);
        const { layerRevision } = doc;
        artworkIndex(doc);
        doc.apply(change);
        const isChanged = pictureChanges(doc, change, artworkChangedSince(doc, layerRevision));
        const after = pictures(doc);
        for (const piece of pieces(doc)) {
          if (isChanged(piece)) continue;
          same++;
          expect(after.get(piece.id)).toBe(before.get(piece.id));
        }
        before = after;
      }
    }),
    runs(40),
  );
  expect(same).toBeGreaterThan(50);
});

test('an edit of one icon changes its picture and those that follow it, and no other; a name changes none', () => {
  const doc = everything();
  const line = doc.list('layer').find((each) => each.attrs.d === 'M12 8v13') as Layer;
  const [anchor] = doc.list('artboard');
  artworkIndex(doc);
  const changed = (change: { puts: ProjectRecord[]; removes: string[] }) => {
    const { layerRevision } = doc;
    doc.apply(change);
    const isChanged = pictureChanges(doc, change, artworkChangedSince(doc, layerRevision));
    return pieces(doc).flatMap((piece) => (isChanged(piece) ? [piece.name] : []));
  };
  expect(changed({ puts: [{ ...line, attrs: { d: 'M12 8v12' } }], removes: [] }).sort()).toEqual([
    'all',
    'anchor',
    'white',
    'with anchor',
  ]);
  expect(changed({ puts: [doc.list('output')[0]], removes: [] })).toEqual([]);
  expect(changed({ puts: [{ ...anchor, background: '#123456' }], removes: [] })).toEqual(
    expect.arrayContaining(['anchor', 'white']),
  );
  expect(changed({ puts: [{ ...anchor, background: '#123456' }], removes: [] })).not.toContain('with anchor');
});

test('after any edits, the checks find what a fresh look finds', () => {
  fc.assert(
    fc.property(edits, (list) => {
      const doc = everything();
      const find = troubleFinder();
      for (const [kind, pick, amount] of list) {
        doc.apply(edit(doc, kind, pick, amount));
        const look = (with_: typeof find, of: ProjectDocument) =>
          with_({ doc: of, plan: planFiles(of, 'kept'), fonts: NO_FONTS });
        expect(look(find, doc)).toEqual(look(troubleFinder(), new ProjectDocument(doc.all())));
      }
    }),
    runs(30),
  );
});

test('an edit in one place leaves what was composed elsewhere as it is', () => {
  const doc = everything();
  const composer = new Composer(doc, { fonts: NO_FONTS, pictures: () => undefined });
  const content = (name: string) => {
    const piece = composer.piece(doc.list('artboard').find((board) => board.name === name)?.id ?? '');
    return piece && composer.content(piece, doc.list('output')[0]);
  };
  const [anchor, boat, white] = [content('anchor'), content('boat'), content('white')];
  const line = doc.list('layer').find((each) => each.attrs.d === 'M12 8v13') as Layer;
  const since = doc.layerRevision;
  doc.apply({ puts: [{ ...line, attrs: { d: 'M12 8v12' } }], removes: [] });
  expect(content('boat')).toBe(boat);
  expect(content('anchor')?.hash).not.toBe(anchor?.hash);
  expect(content('white')?.hash).not.toBe(white?.hash);
  expect(artworkChangedSince(doc, since)?.length).toBeGreaterThan(0);
  const clip = doc.list('layer').find((each) => each.tag === 'clipPath') as Layer;
  doc.apply({ puts: [{ ...clip, attrs: { ...clip.attrs, clipPathUnits: 'userSpaceOnUse' } }], removes: [] });
  expect(artworkChangedSince(doc, since)).toBeNull();
});
