import fc from 'fast-check';
import {
  type Artboard,
  composeBenchPiece,
  DEFS,
  editionRecord,
  type Layer,
  layerRecord,
  NO_FONTS,
  newId,
  outermost,
  type ProjectDocument,
  type ProjectRecord,
  pieces,
  ROOT,
  sliceRecord,
} from '../src';
import { project, svg } from './fixtures';

/** A small project with everything in it that one thing can depend on in another. */
export function everything() {
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
export function edit(
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

export const edits = fc.array(fc.tuple(fc.integer({ min: 0, max: 7 }), fc.nat(50), fc.nat(60)), {
  minLength: 1,
  maxLength: 12,
});

/** What every piece shows on the Bench, by its id. */
export const pictures = (doc: ProjectDocument) =>
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
