import fc from 'fast-check';
import {
  type Artboard,
  artworkChangedSince,
  artworkIndex,
  Composer,
  composeBenchPiece,
  DEFS,
  editionRecord,
  type Layer,
  layerBoxes,
  layerRecord,
  NO_FONTS,
  newId,
  outermost,
  ProjectDocument,
  type ProjectRecord,
  pictureChanges,
  pieces,
  planFiles,
  ROOT,
  sliceRecord,
  troubleFinder,
} from '../src';
import { project, svg } from './fixtures';
import { runs } from './properties';

/** A small project with everything in it that one thing can depend on in another. */
function everything() {
  const { doc, artboard } = project({
    anchor: svg('<g id="anchor" fill="none" stroke="#0c6a53"><circle cx="12" cy="5" r="3"/><path d="M12 8v13"/></g>'),
    boat: svg(
      '<defs><clipPath id="c"><rect width="12" height="24"/></clipPath></defs><g id="boat" clip-path="url(#c)"><rect x="2" y="2" width="20" height="20" fill="#d2452a"/></g>',
    ),
    cloud: svg('<rect id="cloud" x="3" y="3" width="9" height="9"/>'),
  });
  const [anchor, boat, cloud] = [artboard('anchor'), artboard('boat'), artboard('cloud')];
  const layer = (name: string) => doc.list('layer').find((each) => each.name === name) as Layer;
  const specIds = anchor.specIds;
  doc.apply({
    puts: [
      {
        ...anchor,
        id: newId(),
        order: 'b00',
        name: 'white',
        y: 200,
        follows: { artboardId: anchor.id, rule: { kind: 'white' } },
      },
      editionRecord.parse({
        id: newId(),
        kind: 'edition',
        artboardId: cloud.id,
        order: 'b01',
        name: 'with anchor',
        overrides: { [layer('anchor').id]: { offset: { x: cloud.x - anchor.x, y: 0 } } },
        specIds,
      }),
      sliceRecord.parse({
        id: newId(),
        kind: 'slice',
        order: 'b02',
        name: 'of boat',
        source: { kind: 'layer', layerId: layer('boat').id },
        specIds,
      }),
      sliceRecord.parse({
        id: newId(),
        kind: 'slice',
        order: 'b03',
        name: 'all',
        source: { kind: 'everything' },
        specIds,
      }),
      sliceRecord.parse({
        id: newId(),
        kind: 'slice',
        order: 'b04',
        name: 'part',
        source: { kind: 'region', x: boat.x, y: boat.y, width: 10, height: 10 },
        specIds,
      }),
    ],
    removes: [],
  });
  return doc;
}

/** One edit, chosen by numbers: a layer changed, moved, hidden, regrouped, added or deleted, a clip or an artboard changed. */
function edit(
  doc: ProjectDocument,
  kind: number,
  pick: number,
  amount: number,
): { puts: ProjectRecord[]; removes: string[] } {
  const layers = doc.list('layer').filter((each) => each.parentId !== DEFS);
  const layer = layers[pick % Math.max(1, layers.length)];
  const board = doc.list('artboard')[pick % doc.list('artboard').length] as Artboard;
  if (!layer)
    return {
      puts: [
        layerRecord.parse({
          id: newId(),
          kind: 'layer',
          parentId: ROOT,
          order: 'b00',
          tag: 'rect',
          attrs: { width: '5', height: '5' },
        }),
      ],
      removes: [],
    };
  switch (kind) {
    case 0:
      return { puts: [{ ...layer, attrs: { ...layer.attrs, fill: `#0000${(amount % 90) + 10}` } }], removes: [] };
    case 1:
      return { puts: [{ ...layer, transform: [1, 0, 0, 1, amount - 20, amount / 3] }], removes: [] };
    case 2:
      return { puts: [{ ...layer, shown: !layer.shown }], removes: [] };
    case 3: {
      const groups = [
        ROOT,
        ...layers
          .filter(
            (each) => each.tag === 'g' && each.id !== layer.id && outermost(doc, [layer.id, each.id]).length === 2,
          )
          .map((each) => each.id),
      ];
      return { puts: [{ ...layer, parentId: groups[amount % groups.length] }], removes: [] };
    }
    case 4:
      return {
        puts: [
          layerRecord.parse({
            id: newId(),
            kind: 'layer',
            parentId: ROOT,
            order: `c${String(Math.abs(amount)).padStart(3, '0')}`,
            tag: 'rect',
            attrs: { x: String(amount), y: '4', width: '6', height: '3' },
          }),
        ],
        removes: [],
      };
    case 5: {
      const gone: string[] = [];
      const down = (id: string) => {
        gone.push(id);
        for (const child of doc.children(id)) down(child.id);
      };
      down(layer.id);
      return { puts: [], removes: gone };
    }
    case 6: {
      const clip = doc
        .list('layer')
        .find((each) => each.tag === 'rect' && doc.find('layer', each.parentId)?.tag === 'clipPath');
      return {
        puts: clip ? [{ ...clip, attrs: { ...clip.attrs, width: String((amount % 20) + 1) } }] : [],
        removes: [],
      };
    }
    default:
      return { puts: [{ ...board, x: board.x + (amount % 5), width: board.width + (amount % 3) }], removes: [] };
  }
}

const edits = fc.array(fc.tuple(fc.integer({ min: 0, max: 7 }), fc.nat(50), fc.nat(60)), {
  minLength: 1,
  maxLength: 12,
});
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

/** What every piece shows on the Bench, by its id. */
const pictures = (doc: ProjectDocument) =>
  new Map(
    pieces(doc).map((piece) => [
      piece.id,
      piece.problem ??
        composeBenchPiece(
          doc,
          piece,
          { widthPx: piece.region.width, heightPx: piece.region.height },
          { fonts: NO_FONTS, pictures: () => undefined },
        ),
    ]),
  );

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
